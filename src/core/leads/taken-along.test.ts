import { describe, expect, it } from 'vitest';
import { eventIdOf } from '../events/event-id';
import { takenAlong, type EventReadings } from './taken-along';

const event = (at: number, key: string, bikes: string): EventReadings => ({
  eventId: eventIdOf('enquiry_sent', key),
  name: 'enquiry_sent',
  at,
  readings: [{ reading: 'bikes', value: bikes }],
});
const enquiry = { leadToken: 'token-1', sentAt: 1000 };

describe('a reading that is written for an enquiry', () => {
  it('is what its own event took along, also where the page told that a moment later', () => {
    const events = [event(900, 'other', '2'), event(1002, 'token-1', '12')];
    expect(takenAlong(events, enquiry, 'bikes')).toBe('12');
  });

  it('is else what the newest event before it took along, and nothing that was read later', () => {
    const events = [event(100, 'a', '2'), event(500, 'b', '5'), event(1500, 'c', '9')];
    expect(takenAlong(events, enquiry, 'bikes')).toBe('5');
    expect(takenAlong(events, { ...enquiry, leadToken: null }, 'bikes')).toBe('5');
  });

  it('is not an event that had no value', () => {
    expect(takenAlong([event(500, 'b', '5'), event(1000, 'token-1', '')], enquiry, 'bikes')).toBe('5');
    expect(takenAlong([], enquiry, 'bikes')).toBe('');
    expect(takenAlong([event(500, 'b', '5')], enquiry, 'wheels')).toBe('');
  });
});
