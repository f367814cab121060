import { quoteValue } from '../quote-value';
import { count, counted } from '../strands/sentence';
import type { Capped } from './capped';
import type { GaveWay } from './cookies';
import type { FindingKind } from './findings';
import type { FormProblem, JudgedForm } from './forms-seen';
import type { CaptureRules } from './schema';
import type { Stopped } from './stopped';
import { readingWords } from './readings';

/** How often something was found in a time, on which pages and with which campaigns, the commonest first. */
export interface FoundTimes {
  kind: FindingKind;
  name: string;
  times: number;
  lastAt: number;
  pages: string[];
  campaigns: string[];
  /** Kinds of PII, or placeholders. */
  details: string[];
}

/** One row of what was counted. */
export interface CountedFinding {
  kind: FindingKind;
  name: string;
  page: string;
  campaign: string;
  detail: string;
  times: number;
  lastAt: number;
}

/** Something that keeps values from arriving, or lets something in that should not: what, and the one thing to do. */
export interface Fault {
  /** Stays the same while the fault does. */
  id: string;
  what: string;
  mend: string;
  pages: string[];
  campaigns: string[];
  /** How often it was seen; null where it is read off the forms and pages themselves. */
  times: number | null;
  /** What to look for in the list of arrivals that showed it; absent where none did. */
  found?: { kind: FindingKind; name: string };
  lastAt: number | null;
  /** Work that can be tried again. */
  again?: StoppedWork;
  /** It was told by browsers, whose number is not known. */
  isReported?: boolean;
}

/** What was found, one entry for each kind and name. */
export function foldFindings(rows: CountedFinding[]): FoundTimes[] {
  const folded = new Map<string, CountedFinding[]>();
  for (const row of rows) {
    const key = `${row.kind} ${row.name}`;
    folded.set(key, [...(folded.get(key) ?? []), row]);
  }
  return [...folded.values()].map((own) => ({
    kind: own[0]!.kind,
    name: own[0]!.name,
    times: own.reduce((sum, { times }) => sum + times, 0),
    lastAt: Math.max(...own.map(({ lastAt }) => lastAt)),
    pages: commonest(own, 'page'),
    campaigns: commonest(own, 'campaign'),
    details: commonest(own, 'detail'),
  }));
}

function commonest(rows: CountedFinding[], of: 'page' | 'campaign' | 'detail'): string[] {
  const times = new Map<string, number>();
  for (const row of rows) if (row[of] !== '') times.set(row[of], (times.get(row[of]) ?? 0) + row.times);
  return [...times].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0])).map(([value]) => value);
}

/** Names of pages or campaigns as words count them: two are named, more are counted. */
const some = (values: string[]): string =>
  values.length <= 2 ? values.map(quoteValue).join(' and ') : `${quoteValue(values[0]!)} and ${values.length - 1} more`;

type Words = (found: FoundTimes) => { what: string; mend: string };

/** What gave way for want of room in cookies. */
const gaveWayWords: Record<string, string> = {
  clicks: 'older click IDs',
  first: 'content, term or pages of the first touch',
  last: 'content, term or pages of the last touch',
  values: 'values of your own',
  all: 'all values but the visitor ID',
} satisfies Record<GaveWay, string>;

const arrivals = (n: number) => counted(n, 'arrival', 'arrivals');
const words: Partial<Record<FindingKind, Words>> = {
  click_id_gone: ({ name, times, campaigns }) => ({
    what: `${arrivals(times)} from paid clicks came without ${quoteValue(name)}: their browsers take it out.`,
    mend: `Put a carry name into the links of ${some(campaigns)}, which no browser knows.`,
  }),
  own_link_tagged: ({ name, times }) => ({
    what: `A link between your own pages is tagged with the medium ${quoteValue(name)}; it was followed ${counted(times, 'time', 'times')}.`,
    mend: 'Take the tags out of the link; they are for links that lead to you.',
  }),
  own_link_click_id: ({ name, times }) => ({
    what: `A link between your own pages brought a click ID in ${quoteValue(name)} that no page had seen before; it was followed ${counted(times, 'time', 'times')}.`,
    mend: 'Check the page the link is on: the snippet is missing there, or somebody copied the link with its click ID.',
  }),
  pii: ({ name, times, details }) => ({
    what: `${arrivals(times)} carried a ${details[0] === 'telephone' ? 'telephone number' : 'mail address or a name'} in ${quoteValue(name)}. It was taken out before anything was kept.`,
    mend: 'Find who makes these links and have it left out.',
  }),
  placeholder: ({ name, times, details }) => ({
    what: `In ${arrivals(times)} the platform left ${some(details)} unfilled in ${quoteValue(name)}.`,
    mend: 'Correct the placeholder in the ad’s link, or use the platform’s own.',
  }),
  carry_differs: ({ name, times }) => ({
    what: `In ${arrivals(times)} ${quoteValue(name)} said another click ID than the platform’s own name; the platform’s holds.`,
    mend: 'Look whether the link’s click ID was copied from another click.',
  }),
  carry_empty: ({ name, times }) => ({
    what: `In ${arrivals(times)} the carry name ${quoteValue(name)} arrived empty: something took its value out, or the platform put none in.`,
    mend: 'Use another name for it: one that browsers do not know.',
  }),
  value_odd: ({ name, times }) => ({
    what: `${arrivals(times)} brought something in ${quoteValue(name)} that its keep rule does not expect; it was not kept.`,
    mend: 'Look who makes these links, or let the rule take more characters.',
  }),
  cookies_large: ({ times, details }) => ({
    what: `${arrivals(times)} kept up to ${count(Math.max(...details.map(Number)))} bytes in cookies; browsers are sure to hold 4,096.`,
    mend: 'Keep fewer values, or shorter ones; older click IDs are dropped first.',
  }),
  cookies_full: ({ name, times }) => ({
    what: `${arrivals(times)} brought more than the 4,096 bytes that cookies hold; ${gaveWayWords[name] ?? name} were dropped.`,
    mend: 'Use shorter campaign, content and term values, or keep fewer values of your own.',
  }),
  snippet_twice: ({ times, pages }) => ({
    what: `The snippet is on ${some(pages)} twice, where ${arrivals(times)} came. Only one of them works.`,
    mend: 'Take out all but one of the snippets.',
  }),
  page_silent: ({ times, pages }) => ({
    what: `${arrivals(times)} came from ${some(pages)}, which reported nothing: the snippet is missing there.`,
    mend: 'Paste the snippet into the page; people who land there first are not seen.',
  }),
  click_id_long: ({ name, times }) => ({
    what: `${arrivals(times)} brought a click ID in ${quoteValue(name)} longer than 300 characters; its beginning was kept.`,
    mend: 'Open the ad’s link and check its click ID; the platform does not recognise one that was cut.',
  }),
  click_id_odd: ({ name, times }) => ({
    what: `${arrivals(times)} brought something in ${quoteValue(name)} that looks like no click ID.`,
    mend: 'Open the ad’s link and see what is there.',
  }),
};

/** Findings without the silent pages that others told of: there the line stands, and only one browser did not run it. */
export const withoutSeenPages = (rows: CountedFinding[], seen: ReadonlySet<string>): CountedFinding[] =>
  rows.filter(({ kind, page }) => kind !== 'page_silent' || !seen.has(page));

/** The faults that arrivals show, those that cost most first. A carry name that saved a click ID is none. */
export function findingFaults(found: FoundTimes[]): Fault[] {
  return found
    .flatMap((one): Fault[] => {
      const say = words[one.kind];
      if (!say) return [];
      const { pages, campaigns, times, lastAt } = one;
      const found = { kind: one.kind, name: one.name };
      return [{ id: `${one.kind} ${one.name}`, ...say(one), pages, campaigns, times, lastAt, found }];
    })
    .sort((a, b) => b.times! - a.times! || a.id.localeCompare(b.id));
}

/** How many of the newest sendings came out so. */
const sendings = ({ times, of }: { times: number; of: number }): string =>
  of === 1 ? 'the one time it was sent' : `${times === of ? 'all' : times} of the last ${of} times`;

/** What a form's problem is called, and what mends it. */
export function formProblemWords(problem: FormProblem, form: string): { what: string; mend: string } {
  switch (problem.code) {
    case 'near':
      return {
        what: `It has the hidden field ${quoteValue(problem.near)}, the rule looks for ${quoteValue(problem.field)}: nothing is filled.`,
        mend: `Rename the field to ${quoteValue(problem.field)}, or the rule’s field to ${quoteValue(problem.near)}.`,
      };
    case 'missing':
      return {
        what: `The rule’s field ${quoteValue(problem.field)} is not there.`,
        mend: `Add a hidden field ${quoteValue(problem.field)} to the form ${quoteValue(form)}.`,
      };
    case 'unfilled':
      return {
        what: `Nothing fills the hidden field ${quoteValue(problem.field)}.`,
        mend: problem.reading
          ? `Fill it with ${readingWords[problem.reading]}.`
          : 'Say what belongs in it, or take it out of the form.',
      };
    case 'unread':
      return {
        what: `It sends ${readingWords[problem.reading]} as ${quoteValue(problem.field)}; the CRM reads ${quoteValue(problem.crm)}.`,
        mend: `Rename the field and its rule to ${quoteValue(problem.crm)}.`,
      };
    case 'changed':
      return {
        what: `The CRM’s field ${quoteValue(problem.crm)} does not hold what was sent: ${problem.how}, ${sendings(problem)}.`,
        mend: `Look at the length and the rules of the CRM’s field ${quoteValue(problem.crm)}.`,
      };
    case 'ignored':
      return {
        what: `The CRM has no field for ${quoteValue(problem.field)}: what it carries ends with the form.`,
        mend: `Add a field ${quoteValue(problem.field)} to the CRM, or take it out of the form.`,
      };
    case 'no_token':
      return {
        what: `It has no hidden field ${quoteValue('avx_lead')}: its enquiries can be joined to their visits by guess only.`,
        mend: `Add a hidden field ${quoteValue('avx_lead')}, left empty.`,
      };
  }
}

/** Work that failed for good, and can be tried again by hand. */
export const stoppedWork = ['visitor', 'crm_event'] as const;
export type StoppedWork = (typeof stoppedWork)[number];

/** What Avrix could not take, store or work out, with the reason. */
export interface Quarantined {
  kind: 'body' | 'hit' | StoppedWork;
  reason: string;
  n: number;
  /** ms */
  lastAt: number;
}

const quarantineWords: Record<Quarantined['kind'], [one: string, many: string, fate: string, mend: string]> = {
  body: ['time', 'times', 'taken', 'Check pages with very many forms or fields; everything else they send is stored.'],
  hit: ['hit', 'hits', 'stored', 'Tell whoever runs Avrix this reason.'],
  visitor: [
    'visitor',
    'visitors',
    'worked out',
    'Tell whoever runs Avrix this reason; a visitor who comes back is tried again.',
  ],
  crm_event: ['CRM record', 'CRM records', 'read', 'Look at the CRM’s answer, then try again.'],
};

/** What was kept apart: nothing of it is counted, and everything else goes on. */
export const quarantineFaults = (apart: Quarantined[]): Fault[] =>
  apart.map(({ kind, reason, n, lastAt }) => {
    const [one, many, fate, mend] = quarantineWords[kind];
    const what =
      kind === 'body'
        ? `${reason[0]!.toUpperCase()}${reason.slice(1)}${n === 1 ? '' : `, ${counted(n, one, many)}`}; it could not be ${fate}.`
        : `${counted(n, one, many)} could not be ${fate} and ${n === 1 ? 'is' : 'are'} not counted: ${quoteValue(reason)}.`;
    const again = stoppedWork.find((one) => one === kind);
    return {
      id: `quarantine ${kind} ${reason}`,
      what,
      mend,
      pages: [],
      campaigns: [],
      times: n,
      lastAt,
      ...(again ? { again } : {}),
    };
  });

/** Policies that stop the snippet, each with the pages where browsers report it; the newest first. */
export function stoppedFaults(stopped: (Stopped & { lastAt: number })[]): Fault[] {
  const folded = new Map<string, typeof stopped>();
  for (const one of stopped) {
    const key = `stopped ${one.directive} ${one.wanted}`;
    folded.set(key, [...(folded.get(key) ?? []), one]);
  }
  return [...folded].map(([id, all]) => {
    const { directive, wanted } = all[0]!;
    return {
      id,
      what: `The content policy of ${counted(all.length, 'page', 'pages')} stops the snippet: ${quoteValue(directive)} does not name ${quoteValue(wanted)}.`,
      mend: policyMend(directive, wanted),
      pages: all.map(({ page }) => page),
      campaigns: [],
      times: null,
      isReported: true,
      lastAt: Math.max(...all.map(({ lastAt }) => lastAt)),
    };
  });
}

/** What lets the snippet in where a page's content policy stops it. */
export const policyMend = (directive: string, wanted: string): string =>
  `Add ${quoteValue(wanted)} to ${quoteValue(directive)} of the page’s policy.`;

/** Browsers that forget visitors, while the page alone sets its cookies. */
export const cappedFaults = (capped: Capped[], { keep }: CaptureRules): Fault[] =>
  keep.setBy === 'server'
    ? []
    : capped.map(({ browser, soon, strangers }) => ({
        id: `capped ${browser}`,
        what: `Browsers with the engine ${quoteValue(browser)} forget visitors after 7 days: ${soon} came back sooner, none later, where about ${strangers} were to be expected.`,
        mend: 'Let the website’s own subdomain set the cookies: change it under Kept.',
        pages: [],
        campaigns: [],
        times: null,
        lastAt: null,
      }));

/** The faults that the forms themselves show, before anybody has sent one. */
export const formFaults = (forms: JudgedForm[]): Fault[] =>
  forms.flatMap(({ form, words: name, pages, problems }) =>
    problems.map((problem) => {
      const { what, mend } = formProblemWords(problem, form);
      const field = 'field' in problem ? problem.field : '';
      return {
        id: `form ${form} ${problem.code} ${field}`,
        mend,
        pages,
        campaigns: [],
        times: null,
        lastAt: null,
        what: `The form ${name ? `“${name}”` : quoteValue(form)}: ${what.charAt(0).toLowerCase()}${what.slice(1)}`,
      };
    }),
  );

/** Rules that no form on the website matches. */
export const idleFaults = (idle: CaptureRules['fill']): Fault[] =>
  idle.map(({ id, field }) => ({
    id: `idle ${id}`,
    pages: [],
    campaigns: [],
    times: null,
    lastAt: null,
    what: `The rule for the field ${quoteValue(field)} matches no form that was seen.`,
    mend: 'Compare the field’s name with the form’s, or take the rule out.',
  }));

/** What the list of arrivals behind a fault opens with; its title names values without marking them. */
export function arrivalsSentence(found: FoundTimes | undefined, { kind, find }: { kind: FindingKind; find: string }) {
  const of = find ? `, matching “${find}”` : '';
  if (!found)
    return {
      title: `No arrival shows it any more${of}.`,
      under: 'The fault is gone, or lies further back than 13 weeks.',
    };
  const { what, mend } = words[kind]?.(found) ?? {
    what: `${arrivals(found.times)} had their click ID from ${found.name}.`,
    mend: 'Their browsers had taken the platform’s own name out of the address.',
  };
  return { title: `${what}${of && ` Shown are those${of}.`}`.replaceAll('`', ''), under: mend };
}
