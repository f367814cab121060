import { z } from 'zod';
import { minorDigits, readAmount } from '../outcomes';
import { campaignStages } from './stages';

const day = z.union(
  [z.literal(''), z.iso.date('must be a day such as 2027-01-14, or nothing')],
  'must be a day such as 2027-01-14, or nothing',
);

/** A campaign of the register, as it is written by hand, read from a file or pulled from the CRM. */
export const campaignSchema = z
  .strictObject({
    /** As it stands in links. */
    name: z.string().trim().min(1, 'must have a tracking name').max(200, 'must have at most 200 characters'),
    friendly: z.string().trim().max(120, 'must have at most 120 characters'),
    stage: z.enum(campaignStages, `must be ${campaignStages.join(', ')}`),
    startsOn: day,
    endsOn: day,
    /** Major units with at most the decimals of its currency, such as 1200.50; '' without one. */
    budget: z
      .string()
      .trim()
      .regex(/^(\d{1,12}(\.\d+)?)?$/, 'must be an amount such as 1200 or 1200.50'),
    currency: z.string().regex(/^[A-Z]{3}$/, 'must be an ISO 4217 code such as GBP'),
    owner: z.string().trim().max(80, 'must have at most 80 characters'),
    note: z.string().trim().max(1000, 'must have at most 1000 characters'),
    crmId: z.string().trim().max(80, 'must have at most 80 characters'),
    crmType: z.string().trim().max(80, 'must have at most 80 characters'),
  })
  .refine(({ startsOn, endsOn }) => !startsOn || !endsOn || startsOn <= endsOn, {
    path: ['endsOn'],
    message: 'must not be before it starts',
  })
  .superRefine(({ budget, currency }, { addIssue }) => {
    if (!/^[\d.]+$/.test(budget) || !/^[A-Z]{3}$/.test(currency) || readAmount(budget, currency)) return;
    const digits = minorDigits(currency);
    const after = digits === 0 ? 'no digits' : `at most ${digits} digits`;
    addIssue({ code: 'custom', path: ['budget'], message: `must have ${after} after the point in ${currency}` });
  });
export type Campaign = z.infer<typeof campaignSchema>;

/** Campaigns from outside as they were shown, and the numbers of those that vanished there. */
export const takeCampaignsSchema = z.strictObject({
  campaigns: z.array(campaignSchema).max(2000, 'must be at most 2,000 at a time'),
  vanished: z.array(z.string().min(1).max(80)).max(2000),
});

/** A name that is to be put into the register. */
export const campaignNameSchema = z.strictObject({ name: campaignSchema.shape.name });
