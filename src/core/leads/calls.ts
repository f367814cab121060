import { escapeToken, textAt } from '../capture/pointer';
import { guessPlaces } from '../guess-places';
import { readMoment } from '../instant';

/** What is read of a call that a telephone system tells of. */
export const callParts = ['number', 'dialled', 'caller', 'startedAt', 'seconds', 'answered', 'reference'] as const;
export type CallPart = (typeof callParts)[number];

export const callPartWords: Record<CallPart, string> = {
  number: 'the call’s number',
  dialled: 'the number dialled',
  caller: 'the caller’s number',
  startedAt: 'when it began',
  seconds: 'how long it was, in seconds',
  answered: 'whether it was answered',
  reference: 'the reference code that was said',
};

/** Where each part of a call is, as JSON Pointers (RFC 6901) into what is sent, or into a row of a file; '' for none. */
export type CallReading = Record<CallPart, string>;
/** The reading of what a system sends, with where the calls are: '' for the whole of it. */
export interface CallSettingsReading extends CallReading {
  calls: string;
}

/** One call. `number` is the telephone system's own for it; `startedAt` in ms. */
export interface Call {
  number: string;
  dialled: string;
  /** '' where it was withheld. */
  caller: string;
  startedAt: number;
  seconds: number;
  answered: boolean;
  reference: string;
}
export type ReadCall = { ok: true; call: Call } | { ok: false; field: CallPart; was: string; fix: string };

const noWords = new Set(['', '0', 'no', 'false', 'missed', 'busy', 'no answer', 'noanswer', 'unanswered', 'abandoned']);
/** How long a call can be that is believed: a day, in seconds. */
const longest = 86_400;

/**
 * Reads one call. Without the call's own number it is known by caller and beginning; where nothing says whether it was
 * answered, one that took time was.
 *
 * @param localTime the instant (ms) of a time without its zone, such as "2027-02-15 17:00"; null for what is none
 */
export function readCall(
  reading: CallReading,
  document: unknown,
  localTime: (text: string) => number | null,
): ReadCall {
  const text = (part: CallPart): string => textAt(document, reading[part]);
  const missing = (field: CallPart, was: string, fix: string): ReadCall => ({ ok: false, field, was, fix });
  const at = reading.startedAt || 'its place';
  const began = text('startedAt');
  const startedAt = readMoment(began, localTime);
  if (startedAt === null)
    return missing(
      'startedAt',
      began === '' ? `there is no time at ${at}` : `“${began}” at ${at} is no time`,
      'Send when it began, such as 2027-02-15T17:00:00Z or 2027-02-15 17:00.',
    );
  const dialled = text('dialled');
  if (!/\d{3}/.test(dialled))
    return missing(
      'dialled',
      dialled === '' ? 'the number dialled is missing' : `“${dialled}” is no telephone number`,
      'Send the number dialled.',
    );
  const seconds = secondsOf(text('seconds'));
  if (seconds === null || seconds > longest)
    return missing(
      'seconds',
      `“${text('seconds')}” is no length of a call`,
      'Send seconds, such as 185, or minutes and seconds, such as 3:05.',
    );
  const caller = /\d{5}/.test(text('caller')) ? text('caller').slice(0, 40) : '';
  const said = text('answered').toLowerCase();
  const number = text('number').slice(0, 80) || `${caller} ${startedAt}`;
  return {
    ok: true,
    call: {
      number,
      dialled: dialled.slice(0, 40),
      caller,
      startedAt,
      seconds,
      answered: reading.answered === '' || said === '' ? seconds > 0 : !noWords.has(said),
      reference: text('reference').slice(0, 20),
    },
  };
}

/** "185", "185.4", "3:05" or "0:03:05" in seconds; an empty one is 0, null for what is none of them. */
function secondsOf(text: string): number | null {
  if (text === '') return 0;
  if (/^\d+([.,]\d+)?$/.test(text)) return Math.round(Number(text.replace(',', '.')));
  if (!/^\d+(:\d\d){1,2}$/.test(text)) return null;
  return text.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
}

/** How long a call was, in minutes and seconds: "3:05". */
export const callLength = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

/** Names that parts of calls usually have, without what separates their words; the first that is there is taken. */
const usualNames: Record<CallPart, RegExp> = {
  number: /^(call)?(id|uuid|ref|number|no)$/,
  dialled: /^(dialled|dialed|called|to|destination|callee)(number)?$/,
  caller: /^(caller|from|source|calling|callerid|cli)(number)?$/,
  startedAt: /^(started|start|began|date|datetime|time|calledat|startedat|starttime)(at)?$/,
  seconds: /^(seconds|duration|length|talktime|billsec)(seconds)?$/,
  answered: /^(answered|status|result|outcome|disposition)$/,
  reference: /^(reference|code|extra|note)(code)?$/,
};

/** What the names of columns, or of what is sent, tell of where the parts are: a proposal, for a person to take. */
export const guessCallReading = (names: readonly string[]): CallReading =>
  guessPlaces(
    usualNames,
    names.map((name) => `/${escapeToken(name)}`),
  );

/** How calls count. */
export interface CallRules {
  /** An answered call that was shorter (seconds) is no enquiry. */
  shortest: number;
  /** Whether a call that nobody answered is an enquiry. */
  missedCount: boolean;
  /** Calls of one caller with no more than so many days between them are one enquiry. */
  sameDays: number;
}
export const usualCallRules: CallRules = { shortest: 20, missedCount: true, sameDays: 7 };

/** What a call is by itself: whether it counts, and why not. */
export type CallCounts = 'enquiry' | 'too short' | 'missed';
export const callCounts = ({ answered, seconds }: Pick<Call, 'answered' | 'seconds'>, rules: CallRules): CallCounts => {
  if (!answered) return rules.missedCount ? 'enquiry' : 'missed';
  return seconds < rules.shortest ? 'too short' : 'enquiry';
};

/** Digits by which a number dialled is compared, however it is written: with a country in front, or with a 0. */
export const dialKey = (number: string): string => number.replace(/\D/g, '').replace(/^0+/, '').slice(-9);

/** A touch as far as it can have brought a call. `at` in ms. */
export interface CallTouch {
  id: string;
  at: number;
  clickId: string;
  because: string;
}

/**
 * What brought a call of a visitor who is known: the newest click still kept, else the last touch that is (touch rules 4 and
 * 7), as a form would have carried it. Touches after the call ended are none of it.
 *
 * @param touches of the visitor, the oldest first
 * @param kept for how many days a touch's click ID is kept, and other touches
 */
export function broughtCall<Touch extends CallTouch>(
  touches: readonly Touch[],
  at: number,
  kept: { clickDays: (touch: Touch) => number; touchDays: number },
): Touch | null {
  const isKept = (touch: Touch, days: number) => touch.at <= at && at - touch.at < days * 86_400_000;
  return (
    touches.findLast((touch) => touch.clickId !== '' && isKept(touch, kept.clickDays(touch))) ??
    touches.findLast((touch) => isKept(touch, kept.touchDays)) ??
    null
  );
}
