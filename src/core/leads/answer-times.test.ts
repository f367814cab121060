import { describe, expect, it } from 'vitest';
import { answerTimesBy, minuteWords } from './answer-times';
import type { Quality } from './quality';

const enquiry = (source: string, minutes: number | null, quality: Quality = 'answering') => ({
  source,
  sentAt: 0,
  answeredAt: minutes === null ? null : minutes * 60_000,
  quality,
});
const working = (from: number, to: number) => (to - from) / 60_000;

describe('the time to the first answer', () => {
  it('is the middle one of each group, and what nine of ten were answered within', () => {
    const ten = Array.from({ length: 10 }, (_, n) => enquiry('search', n + 1));
    expect(answerTimesBy([enquiry('partner', 60), ...ten], ({ source }) => source, working)).toEqual([
      { key: 'search', enquiries: 10, answered: 10, median: 5.5, slow: 9, waiting: 0 },
      { key: 'partner', enquiries: 1, answered: 1, median: 60, slow: 60, waiting: 0 },
    ]);
  });

  it('counts who still waits, and leaves out what was no enquiry', () => {
    const rows = [
      enquiry('search', null, 'unanswered'),
      enquiry('search', 30),
      enquiry('search', null, 'no_enquiry'),
      enquiry('search', null, 'disqualified'),
    ];
    expect(answerTimesBy(rows, ({ source }) => source, working)).toEqual([
      { key: 'search', enquiries: 3, answered: 1, median: 30, slow: 30, waiting: 1 },
    ]);
    expect(answerTimesBy(rows, ({ answeredAt }) => (answeredAt === null ? null : 'x'), working)).toHaveLength(1);
  });

  it('is said in minutes and hours', () => {
    expect([0, 45.4, 60, 80, 599, 640, 1500].map(minuteWords)).toEqual([
      ...['0 min', '45 min', '1 h', '1 h 20 min', '9 h 59 min', '11 h', '25 h'],
    ]);
  });
});
