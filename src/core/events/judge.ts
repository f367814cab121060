import type { SplitAddress } from '../capture/address';
import { passes } from './compare';
import { leadsTo, plainWords, type Press } from './press';
import type { Judged, MomentKind } from './reasons';
import type { Condition, Cue, EventRule, Test } from './schema';

/** What happened, with what can be known then. `meets` and `read` give null for what was not recorded. */
export interface Moment {
  kind: MomentKind;
  /** The page's address, whole and in its parts; null where it is none. */
  address: string;
  page: SplitAddress | null;
  /** Of an arrival: a page that is told again, by a reload or a step through the history. */
  isAgain?: boolean;
  press?: Press;
  /** Whether what was pressed, or came into view, meets a selector. */
  meets?: (selector: string) => boolean | null;
  form?: string;
  leadToken?: string;
  order?: string;
  /** Percent of the page that were read, or seconds it was in view. */
  amount?: number;
  /** Names that the page says. */
  said?: readonly string[];
  read: (reading: string) => string | null;
  /** The hit that tells of it, the visit and the visitor. */
  ids: { hit: string; visit: string; visitor: string };
}

/** Which moment each cue waits for. */
const momentOf = {
  arrives: 'arrived',
  presses: 'pressed',
  presses_words: 'pressed',
  leaves_for: 'pressed',
  sends: 'sent',
  orders: 'ordered',
  reads_to: 'read_to',
  reads_down: 'read_to',
  stays: 'stayed',
  says: 'said',
} as const satisfies Record<Cue['kind'], MomentKind>;

/** The part of an address that an arrival's cue looks at. */
export function partOf({ address, page }: Pick<Moment, 'address' | 'page'>, part: Cue['part']): string {
  if (part === 'address') return address.split('#')[0]!;
  if (part === 'query') return /\?([^#]*)/.exec(address)?.[1] ?? '';
  return page?.path ?? '';
}

/** Whether a cue is set off by what happened, and why or why not. */
export function judgeCue(cue: Cue, moment: Moment): Judged {
  const { kind, text, amount: least, test } = cue;
  if (momentOf[kind] !== moment.kind)
    return { holds: false, because: { code: 'other_moment', cue: kind, moment: moment.kind } };
  switch (kind) {
    case 'arrives': {
      if (moment.isAgain) return { holds: false, because: { code: 'told_again' } };
      const value = partOf(moment, cue.part);
      return held(test, false, value, text);
    }
    case 'presses_words': {
      const value = moment.press?.text ?? '';
      return held('equals', false, value, text, plainWords(value) === plainWords(text));
    }
    case 'leaves_for': {
      const value = moment.press?.link ?? '';
      return held('begins', false, value, text, leadsTo(value, text));
    }
    case 'presses':
    case 'reads_to': {
      const holds = moment.meets?.(text) ?? null;
      return holds === null
        ? { holds, because: { code: 'not_recorded', what: text } }
        : { holds, because: { code: 'element', selector: text } };
    }
    case 'sends': {
      const { form = '' } = moment;
      return { holds: form === text, because: { code: 'form', form, wanted: text } };
    }
    case 'orders':
      return { holds: true, because: { code: 'order', number: moment.order ?? '' } };
    case 'says': {
      const names = moment.said ?? [];
      return { holds: names.includes(text), because: { code: 'said', names, wanted: text } };
    }
    default: {
      const { amount = 0 } = moment;
      return { holds: amount >= least, because: { code: 'enough', amount, wanted: least } };
    }
  }
}

/** @param holds where it is judged otherwise than as it is said */
const held = (
  test: Test,
  not: boolean,
  value: string,
  wanted: string,
  holds = passes(test, value, wanted) !== not,
): Judged => ({
  holds,
  because: { code: 'held', test, not, value, wanted },
});

/** Whether a condition holds for what was read, and why or why not. */
export function judgeCondition({ reading, test, not, text }: Condition, read: Moment['read']): Judged {
  const value = read(reading);
  if (value === null) return { holds: null, because: { code: 'not_recorded', what: reading } };
  return held(test, not, value, text);
}

/** What became of an event at one moment. */
export interface EventJudged {
  /** Whether it went off; null where recorded traffic does not say. */
  went: boolean | null;
  cues: Judged[];
  conditions: Judged[];
  /** What it is counted once for; null where there is none, and then it does not go off. */
  key: string | null;
}

/** Most events wait for another moment than the one that is judged: for each event and moment that answer is made once. */
const quiet = new WeakMap<EventRule, { [moment: string]: EventJudged }>();

/** Judges an event by what happened: any of its cues and all of its conditions must hold, and there must be a key. */
export function judgeEvent(rule: EventRule, moment: Moment): EventJudged {
  let answers = quiet.get(rule);
  if (!answers) quiet.set(rule, (answers = {}));
  const known = answers[moment.kind];
  if (known) return known;
  const cues = rule.cues.map((cue) => judgeCue(cue, moment));
  let anyCue: boolean | null = false;
  for (const { holds } of cues) if (holds || (holds === null && !anyCue)) anyCue = holds;
  if (anyCue === false) {
    const judged: EventJudged = { went: false, cues, conditions: [], key: null };
    if (cues.every(({ because }) => because.code === 'other_moment')) answers[moment.kind] = judged;
    return judged;
  }
  const conditions = rule.conditions.map((condition) => judgeCondition(condition, moment.read));
  let holds = anyCue as boolean | null;
  for (const one of conditions) if (one.holds === false || (one.holds === null && holds)) holds = one.holds;
  const key = keyOf(rule, moment);
  return { went: holds === false || key === '' ? false : holds && key !== null ? true : null, cues, conditions, key };
}

/** What an event is counted once for; '' where there is none, null where recorded traffic does not say. */
function keyOf({ onceFor, onceReading }: EventRule, { ids, leadToken = '', order = '', read }: Moment): string | null {
  switch (onceFor) {
    case 'lead_token':
      return leadToken;
    case 'order':
      return order;
    case 'reading':
      return read(onceReading);
    case 'visit':
      return ids.visit;
    case 'visitor':
      return ids.visitor;
    case 'each_time':
      return ids.hit;
  }
}
