import { z } from 'zod';
import { minorDigits } from '../../outcomes/worth';
import type { ReportContract } from '../contract';

const day = z.iso.date();
const spentSchema = z.object({
  money: z.string().regex(/^[A-Z]{3}$/),
  rows: z.array(
    z.object({
      day,
      campaign: z.string().max(200),
      ad: z.string().max(200),
      presses: z.number().int().min(0),
      /** Hundredths of `money`, whichever it is. */
      pence: z.number().int().min(0),
    }),
  ),
});
const notedSchema = z.object({
  rows: z.array(z.object({ day, what: z.string().max(200), noted: z.number().int().min(0) })),
});

/**
 * What Tessaloop reports, by the day something happened on. Among what it counts are people who only saw a post, so nothing
 * that it was told is confirmed by it. Of its clicks it says only what they cost.
 */
export const tessaloopReport: ReportContract = {
  countsBy: 'outcome day',
  confirms: false,
  outcomes: (from, to) => ({
    request: { method: 'GET', path: `/report/noted?from=${from}&to=${to}` },
    read: (body) =>
      notedSchema.parse(body).rows.map(({ day: on, what, noted }) => ({ day: on, outcome: what, counted: noted })),
  }),
  costs: (from, to) => ({
    request: { method: 'GET', path: `/report/spent?from=${from}&to=${to}` },
    read(body) {
      const { money, rows } = spentSchema.parse(body);
      const unit = 10 ** (minorDigits(money) - 2);
      return rows.map(({ presses, pence, ...row }) => ({
        ...row,
        campaignId: '',
        adId: '',
        clicks: presses,
        amount: Math.round(pence * unit),
        currency: money,
      }));
    },
  }),
};
