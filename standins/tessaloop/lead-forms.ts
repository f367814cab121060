import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { isoNow, nowMs } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

/** For how many days what people sent is kept. */
export const keptDays = 60;
/** What is given out by one call. */
const mostLeads = 50;

export const places = ['feed', 'chat'] as const;
export const linkSchema = z.strictObject({ link: z.url({ protocol: /^https?$/ }).max(2000) });
export const sentSchema = z.object({
  name: z.string().trim().min(1).max(80),
  company: z.string().trim().max(80),
  mail: z.email().max(120),
  telephone: z.string().trim().max(40),
  ad: z.string().max(80).default(''),
  place: z.enum(places).default('feed'),
  test: z.string().optional(),
});
export type Sent = z.infer<typeof sentSchema>;

export interface LeadForm {
  id: string;
  title: string;
  campaign: string;
  /** Where "See more" leads once it is sent. */
  link: string;
}
export interface Lead {
  id: string;
  form: string;
  ad: string;
  campaign: string;
  place: string;
  sent: string;
  tsl: string;
  test: boolean;
  who: Pick<Sent, 'name' | 'company' | 'mail' | 'telephone'> | null;
}
export type LeadForms = ReturnType<typeof makeLeadForms>;

/** Forms that are filled in within the feed or the chat, and what people sent; after 60 days only that they did. */
export function makeLeadForms(
  store: Store,
  advertiser: string,
  clicked: (key: string, of: Pick<Lead, 'campaign' | 'ad'>) => void,
) {
  const own: LeadForm[] = [
    {
      id: 'F-1',
      title: 'A test ride at your door',
      campaign: 'uk-27q1-fleet-winterproof',
      link: `${advertiser}/fleet`,
    },
    {
      id: 'F-2',
      title: 'The loading guide',
      campaign: 'uk-27q1-brand-rounds',
      link: `${advertiser}/guide?utm_content=thank-you#contents`,
    },
  ];
  const forms: Rows<LeadForm> = store.rows('lead forms');
  for (const form of own) if (!forms.get(form.id)) forms.put(form);
  const leads: Rows<Lead> = store.rows('leads');

  const isKept = ({ sent }: Lead) => nowMs() - Date.parse(sent) < keptDays * 86_400_000;

  return {
    all: () => forms.all(),
    get: (id: string) => forms.get(id),
    relink: (form: LeadForm, link: string) => forms.put({ ...form, link }),
    leads: () => leads.all(),

    /** Takes what somebody sent. A test in the chat is thanked for and goes nowhere. */
    send({ id, campaign }: LeadForm, { name, company, mail, telephone, ad, place, test }: Sent): void {
      if (test && place === 'chat') return;
      const tsl = test ? '' : `tl-${randomBytes(9).toString('base64url')}`;
      if (tsl) clicked(tsl, { campaign, ad });
      leads.put({
        id: `TL-${leads.made() + 1001}`,
        form: id,
        ad,
        campaign,
        place,
        sent: isoNow(),
        tsl,
        test: Boolean(test),
        who: { name, company, mail, telephone },
      });
    },

    /** What was sent after the one of that number, the oldest first. */
    sentAfter(number: string): { leads: Lead[]; more: boolean } {
      const all = leads.all();
      const later = all.slice(all.findIndex(({ id }) => id === number) + 1);
      return {
        leads: later.slice(0, mostLeads).map((lead) => (isKept(lead) ? lead : { ...lead, who: null })),
        more: later.length > mostLeads,
      };
    },
  };
}
