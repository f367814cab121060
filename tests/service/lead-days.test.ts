import { beforeAll, describe, expect, it } from 'vitest';
import { figuresQuerySchema, behindQuerySchema } from '../../src/core/results/figures-view';
import { dayIn } from '../../src/server/days';
import { addUp, day, idAt, makeEditor, noon, rowsOf } from './place';
import { ask, larkmoor, move, opened, place, rest, tell, time } from './walks';

/* Leads as they are summed up by day: the same as from their rows, and kept up by what changes them. */

let member: Awaited<ReturnType<typeof makeEditor>>['member'];
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

const asked = (query: Record<string, string>) =>
  figuresQuerySchema.parse({ count: 'leads', by: 'source', against: 'none', range: 'weeks4', ...query });
/** Leads (thousandths) by the cells of their rows. */
const leadsBy = async (query: Record<string, string>): Promise<Record<string, number>> => {
  const { rows } = await place.services.figures.view(member, asked(query));
  return Object.fromEntries(rows.map(({ cells, figures }) => [cells.map(({ text }) => text).join(' '), figures[0]!]));
};
/** What is behind a figure is read from rows: what is credited of it. */
async function behind(query: Record<string, string>, row: string): Promise<number> {
  const parts = place.services.behindFigures.all(member, asked(query), behindQuerySchema.parse({ of: 'leads', row }));
  let sum = 0;
  for await (const part of parts) for (const { credited } of part) sum += credited;
  return sum;
}

/** Somebody comes by a tagged link, which is told when the browser is there again. */
const land = (visitor: string, at: number, source: string) =>
  tell([opened(visitor, at, `/fleet?utm_source=${source}&utm_medium=email&utm_campaign=spring`, 3)]);
const leadOf = async (deal: string) => {
  const [row] = await rowsOf<{ leadId: string; enquiryId: string }>(
    place.db,
    'SELECT lead_id AS leadId, enquiry_id AS enquiryId FROM deals WHERE number = ?',
    [deal],
  );
  return row!;
};

describe('leads that something changes of', () => {
  it('are counted by what is known now, without anything being asked for anew', async () => {
    const one = await ask();
    move(time + 3 * day);
    const other = await ask();
    const first = { credit: 'first' };
    expect(await leadsBy(first)).toEqual({ quillsearch: 2000 });

    // A landing of the second browser that comes to light late: it was there before both.
    await land(other.visitor, time - 10 * day, 'letter');
    expect(await leadsBy(first)).toEqual({ letter: 1000, quillsearch: 1000 });
    expect(await leadsBy({ credit: 'even' })).toEqual({ letter: 500, quillsearch: 1500 });

    // Both turn out to be one person's, who was there first by the letter, in both enquiries; and not, after all.
    const [a, b] = [await leadOf(one.deal), await leadOf(other.deal)];
    const pair = (are: 'joined' | 'apart') =>
      place.services.records.setPair(member, 'Ines', { one: a.leadId, other: b.leadId, are });
    await pair('joined');
    await rest();
    expect(await leadsBy(first)).toEqual({ letter: 2000 });
    await pair('apart');
    await rest();
    expect(await leadsBy(first)).toEqual({ letter: 1000, quillsearch: 1000 });

    const say = (quality: 'no_enquiry' | '') =>
      place.services.answers.setQuality(member, 'Ines', { ids: [b.enquiryId], quality, reason: '' });
    await say('no_enquiry');
    await rest();
    expect(await leadsBy(first)).toEqual({ quillsearch: 1000 });
    await say('');
    await rest();
    expect(await leadsBy(first)).toEqual({ letter: 1000, quillsearch: 1000 });

    await place.services.erase.ofEnquiry(member, b.enquiryId);
    await rest();
    const left = await leadsBy({ ...first, by: 'source,day' });
    expect(Object.values(left).reduce((sum, n) => sum + n, 0)).toBe(2000);
    for (const [cells, n] of Object.entries(left)) {
      const [source, on] = cells.split(/ (?=\d{4})/);
      const cell = source === 'not known' ? '\tnot known' : source;
      expect(await behind({ ...first, by: 'source,day' }, JSON.stringify([cell, on]))).toBe(n);
    }
  });
});

describe('leads of any days', () => {
  it('are the same from the sums as from their rows, by whatever they are credited and broken down by', async () => {
    /** A fixed sequence that looks like chance. */
    let state = 11;
    const random = (below: number) => {
      state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
      return Math.floor((state / 2 ** 31) * below);
    };
    const { enquiries, leads, touches } = place.services.context.tables;
    // Over the change to summer time on 28 March, so that days have 23 hours too.
    const begin = noon + 40 * day;
    const [browsers, people] = [60, 40];
    const leadIds = Array.from({ length: 50 }, (_, n) => idAt(begin, 90_000 + n));
    await leads.bulkCreate(
      leadIds.map((id, n) => ({
        ...{
          businessId: larkmoor.id,
          id,
          personId: idAt(begin, 91_000 + (n % people)),
          accountId: id,
          crmPerson: `${n}`,
        },
        ...{
          name: '',
          company: '',
          mailDomain: '',
          companyId: null,
          joinedBy: '',
          joinedAt: null,
          madeAt: new Date(begin),
        },
      })) as never[],
    );
    const moment = () => begin + random(30 * day);
    await touches.bulkCreate(
      Array.from({ length: 400 }, (_, n) => {
        const at = moment();
        const id = idAt(at, 60_000 + n);
        const visitorId = idAt(begin, 80_000 + random(browsers));
        return {
          ...{ businessId: larkmoor.id, id, visitorId, visitId: id, hitId: id, at: new Date(at) },
          ...{ source: ['letter', 'Letter', 'fair', ''][random(4)]!, medium: 'email', campaign: `c${random(5)}` },
          ...{ content: ['"quoted"', 'two\nlines', 'a\tb', 'naïve \\'][random(4)]!, term: '', utmId: '' },
          ...{ referrer: ['', 'baker.example/weekly'][random(2)]!, landing: `larkmoor.localhost/${random(3)}` },
          ...{ platform: '', clickId: '', because: 'campaign_values', pageBecause: 'campaign_values' },
          ...{ isFirst: false, isLast: false, releaseNumber: 1 },
        };
      }) as never[],
    );
    const made = Array.from({ length: 300 }, (_, n) => {
      const sentAt = new Date(moment());
      return {
        ...{ businessId: larkmoor.id, id: idAt(sentAt.getTime(), 50_000 + n), form: 'test-ride', page: '', sentAt },
        ...{
          visitorId: random(5) === 0 ? null : idAt(begin, 80_000 + random(browsers)),
          touchId: null,
          strandId: null,
        },
        ...{
          leadId: random(3) === 0 ? null : leadIds[random(leadIds.length)]!,
          fields: [],
          fills: null,
          consent: null,
        },
        ...{ marked: random(10) === 0 ? 'test' : '', quality: random(10) === 0 ? 'no_enquiry' : 'unanswered' },
        ...{ releaseNumber: 1, wayIn: 'form', qualityReason: '', answeredBy: '', saidQuality: '', saidReason: '' },
        ...{ saidBy: '', saidAnsweredBy: '' },
      };
    });
    await enquiries.bulkCreate(made as never[]);
    move(begin + 31 * day);
    await addUp(place, larkmoor.id);

    const days = [...new Set(made.map(({ sentAt }) => dayIn('Europe/London', sentAt.getTime())))].sort();
    expect(days[0]! < '2027-03-28' && days.at(-1)! > '2027-04-02').toBe(true);
    const breakdowns = ['source', 'campaign,content', 'referrer,landing,day', 'channel', 'platform', 'week,source'];
    for (let round = 0; round < breakdowns.length; round++) {
      const [from, to] = [days[random(days.length)]!, days[random(days.length)]!].sort() as [string, string];
      const query = { range: 'own', from, to, by: breakdowns[round]! };
      const all = (credit: string) => place.services.figures.table(member, asked({ ...query, credit }));
      // By position all to one end is that end's, worked out from rows.
      expect(await all('last')).toEqual(await all('position.0.100'));
      expect(await all('first')).toEqual(await all('position.100.0'));
      const { rows } = await place.services.figures.view(member, asked({ ...query, credit: 'even' }));
      for (const { row, figures } of rows.slice(0, 4))
        expect(await behind({ ...query, credit: 'even' }, row)).toBe(figures[0]);
      expect((await all('even')).at(-1)).toEqual((await all('last')).at(-1));
      if (round > 0) continue;
      // Until all days were added up, rows are read.
      const summed = [await all('last'), await all('even')];
      await place.db.query('DELETE FROM lead_days');
      await place.db.query('DELETE FROM roll_up_zones');
      expect([await all('last'), await all('even')]).toEqual(summed);
      await addUp(place, larkmoor.id);
    }
  });
});
