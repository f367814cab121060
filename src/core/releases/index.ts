import { placeholdersOf } from '../links/placeholders';
import { faceOf } from '../destinations/faces';
import type { WireRule } from '../events/schema';
import { namesThere } from '../events/named-there';
import { tellersOf } from '../events/wires';
import { linksOf } from '../platforms/links';
import type { ConversionRule } from '../strands/visitor-conversions';
import type { EventAccount } from '../strands/visitor-events';
import type { CaptureRules } from '../capture/schema';
import type { OutcomeRule, TellingRule } from '../outcomes/schema';
import { ruleOf } from '../plan/check';
import type { ReadValue } from '../strands/clicks';
import type { VisitorRules } from '../strands/visitor';
import { wayInKinds, type WayInKind } from '../strands/types';
import type { Release, ReleaseContent } from './schema';

export * from './upgrade';

export type { Release, ReleaseContent } from './schema';

/** The rules the snippet works by. */
export function captureRules(release: Release): CaptureRules {
  return release.content.capture;
}

/** What a visitor's rows are derived by. */
export function visitorRules(release: Release): VisitorRules {
  return rulesOfContent(release.content);
}

/** The same of a release's content, which may not be live yet. */
export const rulesOfContent = ({
  capture,
  plan,
  noCustomer,
  platforms,
  events,
  outcomes,
}: ReleaseContent): VisitorRules => ({
  ...capture,
  tags: plan.tags.map(({ tag }) => tag),
  paidMedia: plan.channels.filter(({ media }) => media === 'paid').map(({ medium }) => medium),
  noCustomerHosts: noCustomer.hosts,
  eventAccounts: Object.fromEntries(
    events.events.map(({ name }) => [
      name,
      events.wires.filter(({ event }) => event === name).flatMap((wire) => accountsOf(wire, platforms)),
    ]),
  ),
  conversions: outcomes.flatMap((outcome) => conversionRule(outcome, events.wires, platforms)),
  units: Object.fromEntries(events.readings.flatMap(({ id, as, unit }) => (as === 'number' ? [[id, unit]] : []))),
  placeholders: placeholdersOf(linksOf(platforms)).map(({ text }) => text),
});

/** What on the website an outcome is reached by; nothing where it is reached elsewhere. */
function conversionRule(
  { reachedBy: by, countedOnceFor }: OutcomeRule,
  wires: readonly WireRule[],
  platforms: ReleaseContent['platforms'],
): ConversionRule[] {
  const each = countedOnceFor === 'conversion';
  if (by.kind === 'event') {
    // Only those that it asks for: who clicked once and did the same twice is counted once as long as they are alike.
    const names = namesThere(by.event, wires, platforms).filter((name) =>
      by.conditions.some(({ reading }) => reading === name.reading),
    );
    return [{ kind: 'event', event: by.event, each, names }];
  }
  return by.kind === 'page' ? [{ kind: 'page', test: by.test, text: by.text, each }] : [];
}

/** Who tells a wire's account of its event, and of whom; nobody where its kind is not known any more. */
function accountsOf(wire: WireRule, platforms: ReleaseContent['platforms']): EventAccount[] {
  const toldOf = faceOf(wire.kind, platforms)?.toldOf;
  if (!toldOf) return [];
  const clicksOf = toldOf === 'every event' ? '' : wire.kind;
  return tellersOf(wire).map((by) => ({
    account: wire.account,
    by,
    clicksOf,
    paidLast: toldOf === 'its clicks, paid last',
  }));
}

/** The ways in that a business uses, in the order in which they are shown: enquiries by form, and what else it has rules for. */
export const waysInOf = ({ content }: Release): WayInKind[] =>
  wayInKinds.filter((kind) => kind === 'form' || content.qualified[kind] !== undefined);

/** The outcome that is *Qualified* on a way in; null where none is yet. Throws where a release names one it does not hold. */
export function qualifiedOutcome({ number, content }: Release, way: WayInKind): OutcomeRule | null {
  const code = content.qualified[way];
  if (code === undefined) return null;
  const rule = content.outcomes.find((one) => one.code === code);
  if (!rule) throw new Error(`release ${number} names ${code} as qualified but does not hold it`);
  return rule;
}

/** Which platforms are told of an outcome, and how. */
export function tellingRules(release: Release, outcome: string): TellingRule[] {
  return release.content.telling.filter((rule) => rule.outcome === outcome);
}

/** Whether platforms are told of some people by their email address, which has to be known then. */
export const tellsByMail = ({ content }: Release): boolean =>
  content.telling.some(({ secondKey }) => secondKey === 'mail');

/** The words a form goes by, else its name. */
export const formWordsOf =
  ({ content }: Pick<Release, 'content'>) =>
  (form: string): string => {
    const words = content.capture.forms.find(({ name }) => name === form)?.words;
    return words ? `the form “${words}”` : `the form \`${form}\``;
  };

/** What of a release values are read by. */
interface Readable {
  content: Pick<ReleaseContent, 'plan' | 'capture'>;
}

/** How values that are compared are written: in lower case where UTM values are kept so. */
const foldBy = ({ content }: Readable): ((value: string) => string) =>
  content.capture.keep.utmLowerCase ? (value) => value.toLowerCase() : (value) => value;

/** What a value of a tag means by its alias, found without letter case where UTM values are kept in lower case. */
function meansBy(release: Readable): (tag: string, value: string) => string {
  const fold = foldBy(release);
  const key = (tag: string, value: string) => `${tag}=${fold(value)}`;
  const aliases = new Map<string, string>();
  for (const { tag, value, means } of release.content.plan.aliases)
    if (means !== '' && !aliases.has(key(tag, value))) aliases.set(key(tag, value), means);
  return (tag, value) => aliases.get(key(tag, value)) ?? value;
}

/** How values of tags are read before two are compared. */
export function readTagBy(release: Readable): ReadValue {
  const [fold, means] = [foldBy(release), meansBy(release)];
  return (tag, value) => fold(means(tag, value));
}

/** Where something came from, in words: "Paid search on Quillsearch", "Newsletter", "direct". Aliases are applied. */
export function originWords(release: Release, source: string, medium: string, referrer = ''): string {
  const { plan } = release.content;
  const meaning = meansBy(release);
  const labelOf = (tag: string, value: string) => {
    const means = meaning(tag, value);
    return ruleOf(plan, tag)?.values.find((planned) => planned.value === means)?.label || means;
  };
  const from = labelOf('utm_source', source);
  const by = labelOf('utm_medium', medium);
  const means = meaning('utm_medium', medium);
  const joins = plan.channels.find((channel) => channel.medium === means)?.joins ?? 'on';
  if (by && from) return by === from ? by : `${by} ${joins} ${from}`;
  if (by || from) return by || from;
  return referrer ? `Link on ${referrer.split('/')[0]}` : 'not known';
}
