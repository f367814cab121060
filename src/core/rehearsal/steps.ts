import { quoteValue } from '../quote-value';

/** One step of a pretend visitor, or of what follows from the visit. */
export type Step =
  /** Comes from outside. `from`: the referrer, '' for none. */
  | { does: 'arrive'; address: string; from: string }
  /** Follows a link to another page of the website. */
  | { does: 'go'; to: string }
  /** Presses a link or button: by its words, its selector, or where it leads. */
  | { does: 'press'; what: string }
  /** Sends a form of the page; what stands in its fields, by their names. */
  | { does: 'send'; form: string; fields: [name: string, value: string][] }
  | { does: 'wait'; ms: number }
  /** Comes back directly. `to`: a page, '' for the last one. */
  | { does: 'come back'; to: string }
  /** The deal reaches a stage. */
  | { does: 'stage'; stage: string }
  /** Orders. `amount`: a decimal number, '' for that of the newest order; `number`: '' for a new one. */
  | { does: 'order'; amount: string; currency: string; number: string }
  /** Gets money back. `amount`: '' for all of it. */
  | { does: 'refund'; amount: string };

export type ReadLine = { step: Step } | { problem: string };

const minute = 60_000;
const hour = 60 * minute;
const day = 24 * hour;
/** Longest wait, in days: cookies of browsers end by then. */
const longestWait = 400;

const units: [words: RegExp, ms: number][] = [
  [/^(s|sec|seconds?)$/, 1000],
  [/^(min|minutes?)$/, minute],
  [/^(h|hours?)$/, hour],
  [/^(d|days?)$/, day],
  [/^(w|weeks?)$/, 7 * day],
];

/** How each line is written, as it is offered and as a line that cannot be read is answered. */
export const stepForms: readonly { does: Step['does']; example: string; words: string }[] = [
  { does: 'arrive', example: 'arrive /fleet?utm_source=letter from localnews.example', words: 'comes by a link' },
  { does: 'go', example: 'go /fleet/test-ride', words: 'opens another page' },
  { does: 'press', example: 'press Book a time', words: 'presses a link or button' },
  { does: 'send', example: 'send test-ride bikes=3', words: 'sends a form of the page' },
  { does: 'wait', example: 'wait 9 days', words: 'lets time pass' },
  { does: 'come back', example: 'come back', words: 'comes back directly' },
  { does: 'stage', example: 'stage Offer', words: 'the deal reaches a stage' },
  { does: 'order', example: 'order 249.50 GBP', words: 'orders' },
  { does: 'refund', example: 'refund 50', words: 'gets money back' },
];

const isAddress = (text: string): boolean => /^(https?:\/\/|\/|[\w-]+(\.[\w-]+)+(:\d+)?(\/|\?|$))/i.test(text);

/**
 * Reads a short line as a step. An address alone is an arrival by it. What cannot be read says what was wrong and what
 * would be right.
 */
export function readLine(text: string): ReadLine {
  const line = text.replace(/\s+/g, ' ').trim();
  if (isAddress(line)) return readLine(`arrive ${line}`);
  const [, word = '', rest = ''] = /^(come back|[a-z]+)(?: (.*))?$/i.exec(line) ?? [];
  const form = stepForms.find(({ does }) => does === word.toLowerCase());
  if (!form)
    return {
      problem: `${quoteValue(line.slice(0, 60))} is no step. A line begins with ${stepForms.map(({ does }) => does).join(', ')}, or is an address.`,
    };
  const step = readRest(form.does, rest);
  return step ? { step } : { problem: `${whatIsWrong[form.does]} Such as: ${quoteValue(form.example)}` };
}

const whatIsWrong: Record<Step['does'], string> = {
  arrive: 'This must name the page or link that is opened.',
  go: 'This must name a page of the website.',
  press: 'This must say what is pressed: its words, a selector, or where it leads.',
  send: 'This must name a form, then fields as name=value.',
  wait: `This must say how long, at most ${longestWait} days.`,
  'come back': 'After “to” stands a page of the website.',
  stage: 'This must name a stage of the CRM.',
  order: 'An amount is a decimal number and a currency three letters; “as” names the order.',
  refund: 'An amount is a decimal number.',
};

function readRest(does: Step['does'], rest: string): Step | null {
  switch (does) {
    case 'arrive': {
      const [, address = '', from = ''] = /^(\S+)(?: from (\S+))?$/.exec(rest) ?? [];
      return isAddress(address) ? { does, address, from } : null;
    }
    case 'go':
      return isAddress(rest) && !rest.includes(' ') ? { does, to: rest } : null;
    case 'press':
      return rest ? { does, what: rest } : null;
    case 'send':
      return readSend(rest);
    case 'wait':
      return readWait(rest);
    case 'come back': {
      const [, to] = /^(?:to (\S+))?$/.exec(rest) ?? [];
      if (rest === '') return { does, to: '' };
      return to !== undefined && isAddress(to) ? { does, to } : null;
    }
    case 'stage':
      return rest ? { does, stage: rest } : null;
    case 'order': {
      const found = /^(?:(\d+(?:\.\d+)?)(?: ([A-Za-z]{3}))?)?(?: ?as (\S{1,60}))?$/.exec(rest);
      if (!found) return null;
      const [, amount = '', currency = '', number = ''] = found;
      return { does, amount, currency: currency.toUpperCase(), number };
    }
    case 'refund':
      return /^(\d+(\.\d+)?)?$/.test(rest) ? { does, amount: rest } : null;
  }
}

/** A form's name may hold spaces; its fields are `name=value`, a value with spaces between quotation marks. */
function readSend(rest: string): Step | null {
  const at = rest.search(/(?:^| )[\w.-]+=/);
  const form = (at < 0 ? rest : rest.slice(0, at)).trim();
  const fields = at < 0 ? '' : rest.slice(at);
  const pairs = [...fields.matchAll(/([\w.-]+)=(?:"([^"]*)"|(\S*))/g)].map(
    ([, name, quoted, plain]): [string, string] => [name!, quoted ?? plain ?? ''],
  );
  return form ? { does: 'send', form, fields: pairs } : null;
}

function readWait(rest: string): Step | null {
  const [, number, unit = ''] = /^(\d+(?:\.\d+)?) ?([a-z]+)$/i.exec(rest) ?? [];
  const ms = units.find(([words]) => words.test(unit.toLowerCase()))?.[1];
  const wait = ms === undefined ? NaN : Math.round(Number(number) * ms);
  return wait > 0 && wait <= longestWait * day ? { does: 'wait', ms: wait } : null;
}

/** How long a wait is, in the largest unit that it is whole in. */
export function waitWords(ms: number): string {
  const [size, one] = (
    [
      [7 * day, 'week'],
      [day, 'day'],
      [hour, 'hour'],
      [minute, 'minute'],
    ] as const
  ).find(([unit]) => ms % unit === 0) ?? [1000, 'second'];
  const many = ms / size;
  return `${many} ${one}${many === 1 ? '' : 's'}`;
}
