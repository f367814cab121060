import { z } from 'zod';
import type { Sentence } from '../strands';

/** How leads of a platform's own forms are to be fetched. */
export const leadPullSchema = z.strictObject({
  account: z.uuid(),
  /** All that the platform still keeps, or what is sent from now on. */
  take: z.enum(['all', 'new']),
  medium: z.string().trim().min(1, 'must be a medium of the plan').max(80, 'must have at most 80 characters'),
  handsOver: z.boolean(),
  agreed: z.boolean(),
});
export type LeadPullGiven = z.infer<typeof leadPullSchema>;
export const leadAccountSchema = z.strictObject({ account: z.uuid() });

/** An account on a platform with forms of its own. */
export interface LeadAccountView {
  id: string;
  name: string;
  platform: string;
  keptDays: number;
  /** Places where its forms are opened that pass no test lead on. */
  untestable: string[];
  /** How its leads are fetched; null where they are not. */
  pull: {
    since: string;
    by: string;
    takesAll: boolean;
    medium: string;
    handsOver: boolean;
    agreed: boolean;
    pulledAt: string | null;
  } | null;
  /** Why nothing can be fetched now: paused, or how it last answered; '' where it can. */
  trouble: string;
}

export interface PlatformLeadView {
  id: string;
  enquiryId: string;
  words: string;
  number: string;
  form: string;
  ad: string;
  campaign: string;
  place: string;
  sentAt: string;
  state: 'in the CRM' | 'waits for the CRM' | 'not asked for' | 'refused' | 'gone' | 'test';
  /** The record's number in the CRM, or what it answered. */
  said: string;
}

export interface LeadFormsView {
  sentence: Sentence;
  accounts: LeadAccountView[];
  /** Media of the plan. */
  media: string[];
  /** The CRM by name, and whether it makes records for us; '' where none is connected. */
  crm: { name: string; makes: boolean };
  /** The newest. */
  leads: PlatformLeadView[];
  total: number;
  /** How many of all the CRM refused. */
  refused: number;
  mayChange: boolean;
  timeZone: string;
}

/** Where a platform's form leads once it is sent, and with our tags. */
export interface FormLinkView {
  form: string;
  title: string;
  link: string;
  becomes: string;
}
