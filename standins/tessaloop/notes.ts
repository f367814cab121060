import { z } from 'zod';
import { isoNow, nowMs } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

const hour = 3_600_000;
const day = 24 * hour;
/** Oldest click that counts, in days. */
export const clickDays = 21;
/** Oldest event that is taken, in days. */
const eventDays = 5;
/** How long a `ref` is known again, in hours. */
export const refHours = 36;

export const noteSchema = z.strictObject({
  ref: z.string().min(1).max(60),
  what: z
    .string()
    .max(40)
    .regex(/^[A-Za-z0-9]+(?:[ -][A-Za-z0-9]+)*$/, 'must be plain words'),
  moment: z.iso.datetime(),
  amount: z.number().min(0).max(10_000_000).optional(),
  money: z
    .string()
    .regex(/^[A-Z]{3}$/, 'must be three capital letters')
    .optional(),
  who: z
    .strictObject({
      tsl: z.string().min(1).max(60).optional(),
      mail_hash: z
        .string()
        .regex(/^[0-9a-f]{64}$/, 'must be 64 hexadecimal digits')
        .optional(),
    })
    .refine(({ tsl, mail_hash }) => tsl !== undefined || mail_hash !== undefined, 'must name a click or a mail'),
});
type Note = z.infer<typeof noteSchema>;

export interface Noted extends Omit<Note, 'who'> {
  id: string;
  tsl: string;
  mail_hash: string;
  at: string;
  /** Which of the two told it. */
  told: string[];
}
export type Notes = ReturnType<typeof makeNotes>;

/** Clicks in the feed, and what advertisers' pages and servers tell of what became of them. */
export function makeNotes(store: Store) {
  const clicks: Rows<{ id: string; at: number }> = store.rows('clicks');
  const noted: Rows<Noted> = store.rows('notes');
  const newestOf: Rows<{ id: string; note: string }> = store.rows('refs');

  return {
    click: (id: string, at: number) => clicks.put({ id, at }),
    clicks: () => clicks.all().length,
    all: () => noted.all(),

    /** @param isTest true to answer as always and to note nothing  @returns "noted", "noted before", or what is wrong with it */
    take({ who, ...note }: Note, by: 'page' | 'server', isTest = false): string {
      const before = noted.get(newestOf.get(note.ref)?.note ?? '');
      if (before && nowMs() - Date.parse(before.at) <= refHours * hour) {
        if (!isTest && !before.told.includes(by)) noted.put({ ...before, told: [...before.told, by] });
        return 'noted before';
      }
      const click = clicks.get(who.tsl ?? '');
      if (!click && who.mail_hash === undefined) return 'nobody we know';
      const happened = Date.parse(note.moment);
      if (click && happened - click.at > clickDays * day) return 'click too old';
      if (nowMs() - happened > eventDays * day) return 'told too late';
      if (happened - nowMs() > hour) return 'not yet';
      if (isTest) return 'noted';
      const id = `N-${noted.all().length + 1}`;
      noted.put({ ...note, id, tsl: who.tsl ?? '', mail_hash: who.mail_hash ?? '', at: isoNow(), told: [by] });
      newestOf.put({ id: note.ref, note: id });
      return 'noted';
    },
  };
}
