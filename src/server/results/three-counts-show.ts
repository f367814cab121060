import type { OutcomeRule } from '../../core/outcomes/schema';
import type { Reason } from '../../core/reasons/codes';
import { reasonWords } from '../../core/reasons/words';
import type { Counter } from '../../core/results/bridge';
import type { EndView, OpenedPart, StepView, ThreeCountsView } from '../../core/results/three-counts-view';
import { bridgeStepWords, unitOf } from '../../core/results/three-counts-words';
import { formWordsOf, type Release } from '../../core/releases';
import type { BridgedAccount, BridgedRow, WorkedOutBridge } from './work-out-bridge';

/* How a bridge that was worked out is shown: its ends, its steps, what is claimed, and what a number opens. */

/** An account that is told of an outcome, as it is called where others are beside it, and as its platform is. */
export interface CountsPlace extends BridgedAccount {
  accountName: string;
  words: string;
}

/** Who counts at an end, as an address names it. */
export const counterOf = (end: string): Counter => (end === 'website' || end === 'crm' ? end : 'platform');

const countsByWords = { 'click day': 'by click day, its own rules', 'outcome day': 'by outcome day, its own rules' };

export function endView(
  end: string,
  number: number,
  opens: boolean,
  { place, crm, rule }: { place: CountsPlace | null; crm: string; rule: OutcomeRule },
): EndView {
  switch (counterOf(end)) {
    case 'website': {
      const why = place ? `came by ${place.words}, or told to it` : 'whatever brought them';
      return { key: end, words: 'The website counts', count: number, why, opens };
    }
    case 'crm': {
      const at = rule.reachedBy.kind === 'stage' ? `deals at ${rule.reachedBy.stage} or later` : 'with a record';
      return { key: end, words: `${crm} holds`, count: number, why: at, opens };
    }
    case 'platform': {
      const why = place?.countsBy ? countsByWords[place.countsBy] : 'what it took: it has no report';
      return { key: end, words: `${place?.words ?? ''} counts`, count: number, why, opens };
    }
  }
}

/** The steps that there are, and always the unexplained ones. */
export function stepsOf(
  { steps, from: first }: WorkedOutBridge,
  platform: string,
  crm: string,
  lost: ReadonlyMap<string, Reason>,
  release: Release,
): StepView[] {
  const shown = steps.some(({ key }) => key === 'unexplained')
    ? steps
    : [...steps, { key: 'unexplained' as const, count: 0, rows: [] }];
  let at = first;
  return shown.map(({ key, count: number, rows }) => {
    const from = at;
    at += number;
    const { words, why } = bridgeStepWords(key, platform, crm);
    const reasons = rows.flatMap(({ subjectId, told }) => lost.get(subjectId) ?? told?.reason ?? []);
    const usual = mostFrequent(
      reasons.map((reason) => reasonWords(reason, formWordsOf(release)).short.replace(/^held: /, '')),
    );
    return { key, words, from, count: number, why: usual ?? why, opens: rows.length > 0 };
  });
}

function mostFrequent(texts: readonly string[]): string | null {
  const times = new Map<string, number>();
  for (const text of texts) times.set(text, (times.get(text) ?? 0) + 1);
  return [...times].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

export function claimsView(
  { claims, counts }: WorkedOutBridge,
  accounts: readonly CountsPlace[],
  crm: string,
): ThreeCountsView['claims'] {
  const { different, elsewhere, withoutUs, again, nobody, known } = claims;
  return {
    accounts: accounts
      .map(({ key, accountName }, i) => ({ key, name: accountName, count: counts[i]! }))
      .sort((a, b) => b.count - a.count),
    sum: counts.reduce((all, one) => all + one, 0),
    withoutUs,
    again,
    nobody,
    known,
    different: different.length,
    elsewhere: elsewhere.length,
    endWords: crm === '' ? 'The website counts' : `${crm} holds`,
  };
}

export function openedRows(found: WorkedOutBridge, part: OpenedPart): BridgedRow[] {
  const named = (ids: readonly string[]) => found.all.filter(({ id }) => ids.includes(id));
  switch (part) {
    case 'start':
    case 'end':
      return found.counted[part];
    case 'again':
      return named(found.claims.claimedAgain);
    case 'different':
      return named(found.claims.different);
    case 'elsewhere':
      return named(found.claims.elsewhere);
    case 'nobody':
      return named(found.claims.unclaimed);
    default:
      return found.steps.find(({ key }) => key === part)?.rows ?? [];
  }
}

/** What is shown before anything is counted. */
const noEnd: EndView = { key: 'website', words: 'The website counts', count: 0, why: '', opens: false };
export const nothing: Omit<ThreeCountsView, 'outcomes' | 'range' | 'timeZone'> = {
  sentence: {
    title: 'Nothing is counted yet.',
    under:
      'Say what counts as an outcome: then a platform’s count, the website’s and the CRM’s stand beside each other here.',
  },
  asked: { outcome: '', start: 'website', end: 'crm', axis: 'click' },
  accounts: [],
  crm: '',
  unit: unitOf('enquiry'),
  start: noEnd,
  end: { ...noEnd, key: 'crm', words: 'The CRM holds' },
  steps: [],
  claims: null,
  ripe: null,
};
