import { beforeAll, describe, expect, it } from 'vitest';
import { behindQuerySchema, figuresQuerySchema, type FiguresView } from '../../src/core/results/figures-view';
import { dayIn } from '../../src/server/days';
import { addUp, idAt, makeEditor, rowsOf } from './place';
import { ask, larkmoor, move, place, qualify, rest, time } from './walks';

/* Figures on MariaDB: visits from their sums by day as from the visits themselves, and who is credited with what came of them. */

const day = 24 * 3_600_000;
const zone = 'Europe/London';
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

const view = (query: Record<string, string>): Promise<FiguresView> =>
  place.services.figures.view(member, figuresQuerySchema.parse(query));
const bySource = async (query: Record<string, string>) => {
  const { rows } = await view({ by: 'source', against: 'none', ...query });
  return Object.fromEntries(rows.map(({ cells, figures }) => [cells[0]!.text, figures]));
};

/** A touch of a browser, stored as it is derived. */
async function touch(visitorId: string, at: number, source: string, n: number): Promise<void> {
  const id = idAt(at, 60_000 + n);
  await place.services.context.tables.touches.create({
    ...{ businessId: larkmoor.id, id, visitorId, visitId: id, hitId: id, at: new Date(at), source, medium: 'email' },
    ...{ campaign: 'c', content: '', term: '', utmId: '', referrer: '', landing: 'larkmoor.localhost/fleet' },
    ...{ platform: '', clickId: '', because: 'campaign', pageBecause: 'campaign' },
    ...{ isFirst: false, isLast: false, releaseNumber: 1 },
  } as never);
}

describe('who is credited', () => {
  it('by the last touch, the first, or all alike; never by one after the enquiry', async () => {
    const { deal, visitor } = await ask();
    const begun = time;
    move(begun + 3 * day);
    await qualify(deal);
    await rest();
    // Once nothing more derives this browser anew.
    await touch(visitor, begun - 10 * day, 'letter', 1);
    await touch(visitor, begun - 5 * day, 'partner-page', 2);
    await touch(visitor, begun + 2 * day, 'much-later', 3);
    await addUp(place, larkmoor.id);
    const query = { count: 'leads,qualified', range: 'weeks4' };
    expect(await bySource({ ...query, credit: 'last' })).toMatchObject({ quillsearch: [1000, 1000] });
    expect(await bySource({ ...query, credit: 'first' })).toMatchObject({ letter: [1000, 1000] });
    expect(await bySource({ ...query, credit: 'even' })).toEqual({
      letter: [334, 334],
      'partner-page': [333, 333],
      quillsearch: [333, 333],
    });
    const { sums, sentence } = await view({ ...query, by: 'source,campaign', credit: 'position.50.20' });
    expect(sums.figures).toEqual([1000, 1000]);
    expect(sentence.title).toMatch(/^1 lead in 4 weeks, 0 before; letter brought most, 0\.5\.$/);
  });

  it('and every figure is the sum of what is behind it', async () => {
    const query = { count: 'leads,qualified', by: 'source,campaign', credit: 'even', range: 'weeks4' };
    const { rows, sums } = await view(query);
    const asked = figuresQuerySchema.parse(query);
    const behind = (of: string, row?: string) =>
      place.services.behindFigures.view(member, asked, behindQuerySchema.parse({ of, row }));
    for (const { row, figures, cells } of rows)
      for (const [i, of] of ['leads', 'qualified'].entries()) {
        const { rows: subjects, sentence } = await behind(of, row);
        expect(subjects.reduce((sum, { credited }) => sum + credited, 0)).toBe(figures[i]);
        expect(sentence.title.toLowerCase()).toContain(cells[0]!.text);
      }
    const [first] = (await behind('leads')).rows;
    expect(first).toMatchObject({ what: 'enquired', whole: 1000, credited: 1000, touches: 3 });
    expect(first!.path).toMatch(/^\/leads\//);
    expect((await behind('leads')).rows.length * 1000).toBe(sums.figures[0]);
    const files = [];
    for await (const part of place.services.behindFigures.all(member, asked, behindQuerySchema.parse({ of: 'leads' })))
      files.push(...part);
    expect(files).toHaveLength((await behind('leads')).total);
  });

  it('of enquiries without any touch, nobody: that is not known, and not direct', async () => {
    const { deal } = await ask();
    await place.db.query(
      'UPDATE enquiries SET visitor_id = NULL, touch_id = NULL WHERE id = (SELECT enquiry_id FROM deals WHERE number = ?)',
      {
        replacements: [deal],
      },
    );
    await addUp(place, larkmoor.id);
    const found = await bySource({ count: 'leads', range: 'weeks4' });
    expect(found['not known']).toEqual([1000]);
    expect(found.direct).toBeUndefined();
  });

  it('what somebody may not see of money is not counted for them', async () => {
    const blind = { ...member, role: { ...member.role, seesMoney: false } };
    const asked = figuresQuerySchema.parse({ count: 'profit,revenue,leads', by: 'channel' });
    const { counted, seesMoney } = await place.services.figures.view(blind, asked);
    expect([counted, seesMoney]).toEqual([['leads'], false]);
    const [heading] = await place.services.figures.table(blind, asked);
    expect(heading!.join()).not.toMatch(/profit|revenue/);
  });
});

describe('views that are kept', () => {
  const save = (name: string, query: string) =>
    place.services.savedViews.save(member, 'Ines', { kind: 'figures', name, query });

  it('are never written over by another one of the name, and come back once they are taken out', async () => {
    const [kept] = await save('By content', 'by=content');
    await expect(save('by CONTENT', 'by=term')).rejects.toThrow(/already/);
    expect((await view({})).saved).toEqual([{ id: kept!.id, name: 'By content', query: 'by=content', by: 'Ines' }]);
    expect(await place.services.savedViews.retire(member, kept!.id, true)).toEqual([]);
    const [other] = await save('By content', 'by=term');
    await expect(place.services.savedViews.retire(member, kept!.id, false)).rejects.toThrow(/already/);
    await place.services.savedViews.retire(member, other!.id, true);
    expect(await place.services.savedViews.retire(member, kept!.id, false)).toMatchObject([{ query: 'by=content' }]);
    const log = await rowsOf<{ subject: string; became: string }>(
      place.db,
      "SELECT subject, became FROM change_log WHERE kind = 'result' ORDER BY id",
    );
    expect(log.map(({ subject, became }) => [subject, became])).toEqual(
      ['saved', '', 'saved', '', 'saved'].map((became) => ['View “By content”', became]),
    );
  });

  it('have beside them what was noted of their days', async () => {
    const { dayNotes } = place.services;
    const note = await dayNotes.add(member, 'Ines', { day: dayIn(zone, time), text: 'Prices went up' });
    await dayNotes.add(member, 'Ines', { day: '2020-01-01', text: 'Long ago' });
    expect((await view({})).dayNotes).toEqual([{ ...note, by: 'Ines' }]);
    await dayNotes.retire(member, note.id, true);
    expect((await view({})).dayNotes).toEqual([]);
    await dayNotes.retire(member, note.id, false);
    expect((await view({})).dayNotes.map(({ text }) => text)).toEqual(['Prices went up']);
    await expect(dayNotes.retire(member, larkmoor.id, true)).rejects.toThrow(/note/);
  });

  it('are kept by who may change something', async () => {
    const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
    await expect(
      place.services.savedViews.save(reader, 'Ines', { kind: 'figures', name: 'X', query: '' }),
    ).rejects.toThrow(/right to change/);
    expect((await place.services.figures.view(reader, figuresQuerySchema.parse({}))).mayChange).toBe(false);
  });
});

describe('visits', () => {
  it('are the same from sums by day as from the visits, and so are their browsers, in any days', async () => {
    const begin = Date.UTC(2027, 2, 20);
    const { visits, touches } = place.services.context.tables;
    /** A fixed sequence that looks like chance. */
    let state = 7;
    const random = (below: number) => {
      state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
      return Math.floor((state / 2 ** 31) * below);
    };
    const last = new Map<number, number>();
    const made: { at: number; browser: number; source: string | null }[] = [];
    let at = begin;
    for (let n = 0; n < 240; n++) {
      at += random(5 * 3_600_000);
      const browser = random(60);
      const marked = browser < 6 ? 'bot' : '';
      const source = random(3) === 0 ? null : ['quillsearch', 'letter', 'fair'][random(3)]!;
      const id = idAt(at, 70_000 + n);
      const visitorId = idAt(begin, 80_000 + browser);
      if (source) await touch(visitorId, at, source, 10_000 + n);
      const touchId = source ? idAt(at, 60_000 + 10_000 + n) : null;
      const before = last.get(browser);
      await visits.create({
        ...{ businessId: larkmoor.id, id, visitorId, startedAt: new Date(at), endedAt: new Date(at + 60_000) },
        ...{ pages: 1, forms: 0, touchId, browser: 'chromium', gapHours: null, marked },
        previousOn: before === undefined ? null : dayIn(zone, before),
      } as never);
      last.set(browser, at);
      if (!marked) made.push({ at, browser, source });
    }
    expect(await touches.count({ where: { businessId: larkmoor.id, medium: 'email' } })).toBeGreaterThan(100);
    move(at + day);
    await addUp(place, larkmoor.id);

    const days = [...new Set(made.map((one) => dayIn(zone, one.at)))].sort();
    // Over the change to summer time on 28 March too.
    expect([days[0]! < '2027-03-28', days.at(-1)! > '2027-04-10']).toEqual([true, true]);
    for (let round = 0; round < 12; round++) {
      const [from, to] = [days[random(days.length)]!, days[random(days.length)]!].sort() as [string, string];
      const within = made.filter((one) => dayIn(zone, one.at) >= from && dayIn(zone, one.at) <= to);
      const found = await bySource({ count: 'visits,visitors', range: 'own', from, to });
      const slow = new Map<string, [visits: number, browsers: Set<number>]>();
      const seen = new Set<number>();
      for (const one of within) {
        const row = slow.get(one.source ?? 'direct') ?? [0, new Set<number>()];
        slow.set(one.source ?? 'direct', row);
        row[0] += 1;
        // Counted where it came from first in these days.
        if (!seen.has(one.browser)) row[1].add(one.browser);
        seen.add(one.browser);
      }
      expect(found).toEqual(
        Object.fromEntries([...slow].map(([source, [n, browsers]]) => [source, [n, browsers.size]])),
      );
    }
  });
});
