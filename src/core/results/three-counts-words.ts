import { partsOf, type Option, type Piece } from '../rules/says';
import type { CountedOnceFor } from '../outcomes/schema';
import { count, counted, type Sentence } from '../strands';
import type { BridgeStepKey } from './bridge';
import { daysOptions } from './days-options';
import { percent } from './ripeness-words';
import type { DaysRange } from './days-query';
import type { BridgeAxis, EndView, OpenedPart, StepView, ThreeCountsView } from './three-counts-view';

/* Three counts as a sentence, whose parts are changed in place: From Quillsearch to the CRM, for FLT-QUAL, by click day … */

export interface AskedCounts {
  outcome: string;
  start: string;
  end: string;
  axis: BridgeAxis;
  range: DaysRange;
  from: string;
  to: string;
}

export function threeCountsPieces({
  outcomes,
  accounts,
  crm,
  range,
}: Pick<ThreeCountsView, 'outcomes' | 'accounts' | 'crm' | 'range'>): Piece<AskedCounts>[] {
  const { choice } = partsOf<AskedCounts>();
  const ends: Option[] = [
    ...accounts.map(({ key, name }): Option => [`at:${key}`, name]),
    ['website', 'the website'],
    ...(crm === '' ? [] : [['crm', crm] as const]),
  ];
  return [
    'From ',
    choice('start', 'From whose count', ends),
    ' to ',
    choice('end', 'To whose count', ends),
    ', for ',
    choice(
      'outcome',
      'Outcome',
      outcomes.map(({ code, words }): Option => [code, `${words} (${code})`]),
    ),
    ', by ',
    choice('axis', 'By which day', [
      ['click', 'click day'],
      ['outcome', 'outcome day'],
      ['reported', 'the day the platform counts it on'],
    ]),
    ', ',
    choice('range', 'Days', daysOptions(range)),
    '.',
  ];
}

export const askedCounts = ({ asked, range }: ThreeCountsView): AskedCounts => ({
  ...asked,
  range: range.choice,
  from: range.choice === 'own' ? range.firstDay : '',
  to: range.choice === 'own' ? range.lastDay : '',
});

/**
 * What is asked for after a part was changed: two ends that are not the same, and not two platforms, of which neither knows what
 * the other counts; the end that was not changed gives way. Of another outcome, the usual ends.
 */
export function settledCounts(next: AskedCounts, before: AskedCounts): AskedCounts {
  if (next.outcome !== before.outcome) return { ...next, start: '', end: '' };
  const isAccount = (end: string) => end.startsWith('at:');
  if (next.start !== next.end && !(isAccount(next.start) && isAccount(next.end))) return next;
  // Two that are the same change places; beside one platform stands the website.
  const isSame = next.start === next.end;
  return next.start === before.start
    ? { ...next, start: isSame ? before.end : 'website' }
    : { ...next, end: isSame ? before.start : 'website' };
}

/** What is asked for, as it stands in an address. */
export function threeCountsAddress({ outcome, start, end, axis, range, from, to }: AskedCounts): string {
  const query = new URLSearchParams({ outcome, start, end, axis, range });
  if (range === 'own') {
    query.set('from', from);
    query.set('to', to);
  }
  return query.toString();
}

/** What is counted, by what the outcome counts once for. */
export const unitOf = (once: CountedOnceFor): ThreeCountsView['unit'] => units[once] ?? ['conversion', 'conversions'];
const units: Partial<Record<CountedOnceFor, ThreeCountsView['unit']>> = {
  enquiry: ['lead', 'leads'],
  deal: ['lead', 'leads'],
  lead: ['lead', 'leads'],
  order: ['order', 'orders'],
  subscription: ['subscription', 'subscriptions'],
  payment: ['payment', 'payments'],
};

/** What a step is called, and why it is there where nothing more is known of it. @param platform as people call it; '' without one */
export function bridgeStepWords(key: BridgeStepKey, platform: string, crm: string): { words: string; why: string } {
  const it = platform || 'the platform';
  const [words, why] = stepTexts(it, crm || 'the CRM')[key];
  return { words, why };
}

const stepTexts = (it: string, crm: string): Record<BridgeStepKey, readonly [words: string, why: string]> => ({
  without_us: [`counted by ${it} without us`, 'by its own rules: nobody told it'],
  its_days: ['its days, not ours', 'it counts them on other days'],
  our_days: ['our days, not its', 'it counts them on other days'],
  taken_back: ['taken back since', 'refunded or charged back'],
  no_customer: ['staff, tests and no enquiries', 'never counted here'],
  not_reported_yet: ['told, not in its report yet', `${it} took them; its report follows`],
  no_consent: ['no consent', 'these people did not agree'],
  never_arrived: ['no click ID', `came from ${it} without one`],
  changed: ['click ID changed', `${crm} holds another one`],
  lost_before_crm: ['lost before the CRM', `${crm} has no click ID`],
  too_old: ['too old', 'click or outcome past the limit'],
  duplicate: ['probably the same twice', 'held until somebody looked'],
  refused: [`refused by ${it}`, 'by its own answer'],
  stopped: ['waiting or held', 'not told yet'],
  not_told: ['not told', 'no rule tells it of these'],
  not_in_crm_yet: ['not in the CRM yet', 'younger than a day'],
  never_in_crm: ['never reached the CRM', 'no record came'],
  gone: ['gone from the CRM', 'deleted or merged there'],
  not_at_stage: ['not at the stage there', 'counted otherwise than by the stage'],
  more_deals: ['more than one deal', 'of the same enquiry'],
  counted_once: ['counted once for each lead', 'another enquiry of the lead counts'],
  not_counted: ['at the stage, not counted', 'no outcome was counted for them'],
  unexplained: ['unexplained', ''],
});

/** Clicks that a platform reports, and how many of them never landed: compared campaign by campaign, in its account's days. */
export interface MissingLandings {
  clicks: number;
  missing: number;
}

/** Steps whose numbers become smaller by themselves. */
const onTheirWay: readonly BridgeStepKey[] = ['not_reported_yet', 'stopped', 'not_in_crm_yet'];

const axisWords: Record<BridgeAxis, string> = {
  click: 'by click day',
  outcome: 'by outcome day',
  reported: 'by the day the platform counts it on',
};

/**
 * "Quillsearch counted 61, Oakledger holds 54; every step between is known."
 *
 * @param missing what the platform reports of clicks, and how many of them never landed; null where it reports none
 */
export function threeCountsSentence(
  { start, end, steps, unit }: Pick<ThreeCountsView, 'start' | 'end' | 'steps' | 'unit'>,
  { outcome, axis }: Pick<AskedCounts, 'outcome' | 'axis'>,
  missing: MissingLandings | null,
): Sentence {
  const moving = steps.reduce((sum, { key, count: n }) => sum + (onTheirWay.includes(key) ? Math.abs(n) : 0), 0);
  const under = [
    `${outcome} ${axisWords[axis]}.`,
    missing === null
      ? ''
      : `${count(missing.clicks - missing.missing)} of ${counted(missing.clicks, 'click', 'clicks')} landed (${percent(1 - missing.missing / missing.clicks)}).`,
    moving > 0 ? `${count(moving)} ${moving === 1 ? 'is' : 'are'} still on ${moving === 1 ? 'its' : 'their'} way.` : '',
  ];
  const unexplained = Math.abs(steps.find(({ key }) => key === 'unexplained')?.count ?? 0);
  const both = `${start.words} ${count(start.count)}, ${lowerThe(end.words)} ${count(end.count)}`;
  const changes = steps.filter(({ count: n }) => n !== 0);
  const title =
    start.count === 0 && end.count === 0 && changes.length === 0
      ? `No ${unit[1]} are counted by either in these days.`
      : changes.length === 0
        ? `${both}: the same ${counted(end.count, unit[0], unit[1])}.`
        : unexplained > 0
          ? `${both}; ${count(unexplained)} ${unexplained === 1 ? 'is' : 'are'} unexplained.`
          : `${both}; every step between is known.`;
  return { title, under: under.filter(Boolean).join(' ') };
}

const lowerThe = (words: string): string => words.replace(/^The /, 'the ');

/** What an opened part is, as a title: "Quillsearch counts 27 leads.", "11 leads: lost before the CRM." */
export function openedTitle(
  part: OpenedPart,
  many: number,
  view: Pick<ThreeCountsView, 'start' | 'end' | 'steps' | 'claims' | 'unit'>,
): string {
  const what = counted(many, view.unit[0], view.unit[1]);
  return part === 'start' || part === 'end' ? `${view[part].words} ${what}.` : `${what}: ${partWords(part, view)}.`;
}

function partWords(
  part: Exclude<OpenedPart, 'start' | 'end'>,
  { steps, claims }: Pick<ThreeCountsView, 'steps' | 'claims'>,
) {
  switch (part) {
    case 'again':
      return 'claimed by more than one platform';
    case 'different':
      return 'claimed by a platform';
    case 'elsewhere':
      return `claimed, and not among what ${lowerThe(claims?.endWords ?? '')}`;
    case 'nobody':
      return 'claimed by no platform';
    default:
      return steps.find(({ key }) => key === part)?.words ?? 'none';
  }
}

/** The bridge as text, for a message: a line for each step. */
export function bridgeText({ sentence, start, end, steps }: ThreeCountsView): string {
  const line = ({ words, why }: EndView | StepView, text: string) =>
    `${text}\t${words}${why === '' ? '' : ` (${why.replaceAll('`', '')})`}`;
  return [
    sentence.title,
    sentence.under,
    '',
    line(start, count(start.count)),
    ...steps.filter(({ count: n }) => n !== 0).map((step) => line(step, changeText(step.count))),
    line(end, count(end.count)),
  ].join('\n');
}

/** "+3", "−14", "0". */
export const changeText = (change: number): string =>
  change === 0 ? '0' : `${change > 0 ? '+' : '−'}${count(Math.abs(change))}`;
