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
/** A press of a post's link, or a form that was opened and sent in the feed; what is paid for has an ad and a price. */
export interface Click {
  id: string;
  /** ms */
  at: number;
  kind: 'press' | 'form';
  campaign: string;
  ad: string;
  pence: number;
}
interface SpentRow {
  day: string;
  campaign: string;
  ad: string;
  presses: number;
  pence: number;
}
interface NotedRow {
  day: string;
  what: string;
  noted: number;
}

/** Days of the account's reports are those of UTC. */
const dayOf = (at: number): string => new Date(at).toISOString().slice(0, 10);
/** One in so many who did something had only seen a post: nobody told it, and it is counted all the same. */
const oneIn = 4;
export type Notes = ReturnType<typeof makeNotes>;

/** Clicks in the feed, and what advertisers' pages and servers tell of what became of them. */
export function makeNotes(store: Store) {
  const clicks: Rows<Click> = store.rows('clicks');
  const noted: Rows<Noted> = store.rows('notes');
  const newestOf: Rows<{ id: string; note: string }> = store.rows('refs');

  return {
    /** A click of the key on an ad; without one on a post that nobody pays for. */
    click(id: string, at: number, kind: Click['kind'], { campaign, ad }: Pick<Click, 'campaign' | 'ad'>): void {
      const price = (kind === 'press' ? 40 : 300) + ((id.charCodeAt(id.length - 1) * 7) % 90);
      clicks.put({ id, at, kind, campaign, ad, pence: ad === '' ? 0 : price });
    },
    clicks: () => clicks.all().length,
    all: () => noted.all(),

    /** What each ad cost on days between `from` and `to`. */
    spent(from: string, to: string): SpentRow[] {
      const rows = new Map<string, SpentRow>();
      for (const { at, kind, campaign, ad, pence } of clicks.all()) {
        const day = dayOf(at);
        if (pence === 0 || day < from || day > to) continue;
        const key = `${day} ${campaign} ${ad}`;
        const row = rows.get(key) ?? { day, campaign, ad, presses: 0, pence: 0 };
        rows.set(key, { ...row, presses: row.presses + (kind === 'press' ? 1 : 0), pence: row.pence + pence });
      }
      return [...rows.values()];
    },

    /** What was noted on the days it happened on, between `from` and `to`; and who did it after seeing a post. */
    noted(from: string, to: string): NotedRow[] {
      const rows = new Map<string, NotedRow>();
      for (const { id, what, moment } of noted.all()) {
        const day = dayOf(Date.parse(moment));
        if (day < from || day > to) continue;
        const row = rows.get(`${day} ${what}`) ?? { day, what, noted: 0 };
        const saw = Number(id.slice('N-'.length)) % oneIn === 0 ? 1 : 0;
        rows.set(`${day} ${what}`, { ...row, noted: row.noted + 1 + saw });
      }
      return [...rows.values()];
    },

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
