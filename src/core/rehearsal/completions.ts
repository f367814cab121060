import { readLine, stepForms, type Step } from './steps';
import type { RehearsalOffers } from './view';

/** A whole line that may be meant, with what people call it. */
export interface Completion {
  value: string;
  label: string;
}

const waits = ['20 minutes', '1 day', '9 days', '3 weeks', '31 days', '90 days'];
const most = 60;

/**
 * Lines that complete what is typed: of pages, links, forms, buttons and stages that were really seen, those of the page
 * that the visitor is on first.
 * @param before the lines that were walked already
 */
export function completionsOf(typed: string, before: readonly string[], offers: RehearsalOffers): Completion[] {
  const path = pathAfter(before);
  const all: Completion[] = [
    ...(before.length === 0
      ? []
      : offersOf(
          'press',
          here(offers.presses, path),
          ({ words }) => words,
          ({ link }) => link,
        )),
    ...(before.length === 0
      ? []
      : offersOf(
          'send',
          here(offers.forms, path),
          ({ form }) => form,
          (one) => `on ${one.path}`,
        )),
    ...offersOf(
      'arrive',
      offers.arrive,
      ({ value }) => value,
      ({ label }) => label,
    ),
    ...offersOf('arrive', offers.paths, (one) => one),
    ...offersOf('go', offers.paths, (one) => one),
    ...offersOf('wait', waits, (one) => one),
    ...offersOf('stage', offers.stages, (one) => one),
  ];
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const isMeant = ({ value, label }: Completion) =>
    words.every((word) => `${value} ${label}`.toLowerCase().includes(word));
  const begun = stepForms.filter(({ does }) => typed !== '' && does.startsWith(typed.trim().toLowerCase()));
  const starts =
    words.length === 0
      ? stepForms.map(({ does, words: label }) => ({ value: does, label }))
      : begun.map(({ does, words: label }) => ({ value: does, label }));
  const found = words.length === 0 ? [] : all.filter(isMeant);
  const unique = new Map([...starts, ...found].map((one) => [one.value, one]));
  unique.delete(typed);
  return [...unique.values()].slice(0, most);
}

const offersOf = <T>(
  does: Step['does'],
  all: readonly T[],
  valueOf: (one: T) => string,
  labelOf: (one: T) => string = () => '',
): Completion[] => all.map((one) => ({ value: `${does} ${valueOf(one)}`, label: labelOf(one) }));

/** Those of a page first. */
const here = <T extends { path: string }>(all: readonly T[], path: string): T[] => [
  ...all.filter((one) => one.path === path),
  ...all.filter((one) => one.path !== path),
];

/** The path of the page that the lines end on, as far as they say it; '' where they do not. */
export function pathAfter(lines: readonly string[]): string {
  for (const line of [...lines].reverse()) {
    const read = readLine(line);
    if (!('step' in read)) continue;
    const { step } = read;
    const address =
      step.does === 'arrive' ? step.address : step.does === 'go' || step.does === 'come back' ? step.to : '';
    if (address) return address.replace(/^https?:\/\/[^/?#]*/i, '').split(/[?#]/)[0] || '/';
  }
  return '';
}
