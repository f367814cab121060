import { describe, expect, it } from 'vitest';
import { splitAddress } from '../capture/address';
import { judgeEvent, type Moment } from '../events/judge';
import type { EventRule } from '../events/schema';
import { freshCue, freshEvent } from '../events/words';
import { seenWords } from './seen-words';

const address = 'http://larkmoor.localhost/fleet';
const moment = (change: Partial<Moment>): Moment => ({
  kind: 'arrived',
  address,
  page: splitAddress(address),
  ids: { hit: 'h', visit: 'v', visitor: 'p' },
  read: (id) => (id === 'bikes' ? '2' : ''),
  ...change,
});
const rule = (change: Partial<EventRule>): EventRule => ({
  ...freshEvent(),
  name: 'asked',
  onceFor: 'visit',
  ...change,
});
const said = (one: EventRule, what: Partial<Moment>, isTold = true) =>
  seenWords(one, judgeEvent(one, moment(what)), isTold, (id) => id);

describe('what somebody who sees through a page reads of an event', () => {
  const arrives = rule({ cues: [{ ...freshCue('arrives'), text: '/fleet' }] });

  it('says what set it off, or that it was counted before', () => {
    expect(said(arrives, {})).toBe(
      '`asked` went off, because someone arrives at a page whose path begins with `/fleet`.',
    );
    expect(said(arrives, {}, false)).toBe('`asked` stayed quiet, because it was counted for this visit already.');
  });

  it('says nothing of a moment that none of its cues waits for', () => {
    expect(said(arrives, { kind: 'said' })).toBe('');
  });

  it('says which cue or condition does not hold, with the value that was there', () => {
    expect(said(rule({ cues: [{ ...freshCue('arrives'), text: '/shop' }] }), {})).toBe(
      '`asked` stayed quiet, because `/fleet` does not begin with `/shop`.',
    );
    const many = { reading: 'bikes', test: 'at_least', not: false, text: '3' } as const;
    expect(said({ ...arrives, conditions: [many] }, {})).toBe(
      '`asked` stayed quiet, because bikes `2` is not at least `3`.',
    );
  });

  it('says that there is nothing to count it once for', () => {
    expect(said({ ...arrives, onceFor: 'order' }, {})).toBe(
      '`asked` stayed quiet, because it is counted once for each order, and there is none.',
    );
  });
});
