import { z } from 'zod';
import { minorDigits } from '../../outcomes/worth';
import type { ReportContract } from '../contract';

const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const clicksSchema = z.object({
  time_zone: z.string(),
  rows: z.array(
    z.object({
      day,
      campaign: z.string(),
      /** The campaign’s own number, as `(number)` writes it into links. */
      number: z.string().max(80).default(''),
      clicks: z.number().int().min(0),
    }),
  ),
});
const spendSchema = z.object({
  currency: z.string().regex(/^[A-Z]{3}$/),
  rows: z.array(
    z.object({
      day,
      campaign: z.string(),
      number: z.string().max(80).default(''),
      advert: z.string().max(200),
      clicks: z.number().int().min(0),
      /** Hundredths of the account's currency, whichever it is. */
      spend_cents: z.number().int().min(0),
    }),
  ),
});
const outcomesSchema = z.object({
  rows: z.array(z.object({ day, outcome: z.string(), counted: z.number().int().min(0) })),
});

/** What Quillsearch reports, by click day in the account's zone. */
export const quillsearchReport: ReportContract = {
  countsBy: 'click day',
  confirms: true,
  clicks: (from, to) => ({
    request: { method: 'GET', path: `/api/report/clicks?from=${from}&to=${to}` },
    read: (body) => clicksSchema.parse(body).rows,
  }),
  outcomes: (from, to) => ({
    request: { method: 'GET', path: `/api/report/outcomes?from=${from}&to=${to}` },
    read: (body) => outcomesSchema.parse(body).rows,
  }),
  costs: (from, to) => ({
    request: { method: 'GET', path: `/api/report/spend?from=${from}&to=${to}` },
    read(body) {
      const { currency, rows } = spendSchema.parse(body);
      const unit = 10 ** (minorDigits(currency) - 2);
      return rows.map(({ number, advert, spend_cents: cents, ...row }) => ({
        ...row,
        campaignId: number,
        ad: advert,
        adId: '',
        amount: Math.round(cents * unit),
        currency,
      }));
    },
  }),
};
