import { z } from 'zod';
import type { LeadFormsContract } from '../contract';

const text = (length: number) => z.string().transform((value) => value.slice(0, length));
const formsSchema = z.object({ forms: z.array(z.object({ form: text(60), title: text(120), link: z.string() })) });
const leadsSchema = z.object({
  leads: z.array(
    z.object({
      lead: z.string().min(1).max(60),
      form: text(60),
      ad: text(200),
      campaign: text(200),
      place: text(60),
      sent: z.iso.datetime().transform((at) => Date.parse(at)),
      tsl: z.string().max(300),
      test: z.boolean(),
      who: z.object({ name: text(120), company: text(120), mail: text(254), telephone: text(60) }).nullable(),
    }),
  ),
  more: z.boolean(),
});

/** Tessaloop's lead forms. It keeps what was sent for 60 days, and passes no test lead on that was made in its chat. */
export const tessaloopForms: LeadFormsContract = {
  keptDays: 60,
  places: [
    { place: 'feed', words: 'in the feed', passesTests: true },
    { place: 'chat', words: 'in the chat', passesTests: false },
  ],
  forms: { request: { method: 'GET', path: '/lead-forms' }, read: (body) => formsSchema.parse(body).forms },
  sent: (after) => ({
    request: { method: 'GET', path: `/leads?after=${encodeURIComponent(after)}` },
    read(body) {
      const { leads, more } = leadsSchema.parse(body);
      return {
        leads: leads.map(({ lead, sent, tsl, test, who, ...of }) => ({
          ...of,
          number: lead,
          sentAt: sent,
          clickId: tsl,
          isTest: test,
          answers: who,
        })),
        more,
      };
    },
  }),
  writeLink: (form, link) => ({ method: 'POST', path: `/lead-forms/${encodeURIComponent(form)}/link`, body: { link } }),
};
