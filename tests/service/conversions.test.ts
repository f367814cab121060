import { beforeAll, describe, expect, it } from 'vitest';
import type { OutcomeRule, TellingRule } from '../../src/core/outcomes';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { ask, crm, larkmoor, move, outside, place, rest, time } from './walks';

/* What is counted that is neither an enquiry nor an order: events and pages of the website, and what a deal's field says. */

let member: Membership;
let release = 1;
const outcome = (code: string, part: Pick<OutcomeRule, 'reachedBy' | 'countedOnceFor'>): OutcomeRule => ({
  ...{ code, version: 1, words: code, kind: 'interest', worth: { kind: 'none' }, clickDays: 80 },
  ...part,
});
const guide = outcome('GDE-TAKEN', {
  reachedBy: {
    kind: 'event',
    event: 'guide_taken',
    conditions: [{ reading: 'line', test: 'equals', not: false, text: 'fleet' }],
  },
  countedOnceFor: 'click',
});
const calculated: OutcomeRule = {
  ...outcome('FLT-CALC', {
    reachedBy: { kind: 'event', event: 'saving_worked_out', conditions: [] },
    countedOnceFor: 'conversion',
  }),
  worth: { kind: 'realised', field: 'saving', less: [] },
};
const welcomed = outcome('CAR-SEEN', {
  reachedBy: { kind: 'page', test: 'begins', text: '/care/welcome' },
  countedOnceFor: 'visitor',
});
const financed = outcome('FLT-FINANCE', {
  reachedBy: { kind: 'field', name: 'content', test: 'equals', text: 'approved' },
  countedOnceFor: 'deal',
});

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const { content } = await place.services.releases.live(larkmoor.id);
  const [telling] = content.telling.filter((one) => one.outcome === 'FLT-QUAL' && one.platform === 'quillsearch');
  const tells = (code: string): TellingRule => ({ ...telling!, outcome: code, letsItBid: false });
  const [usual] = content.events.events;
  move(time + 1000);
  release = await place.services.releases.make(larkmoor.id, {
    name: 'Guides and pages count',
    note: '',
    content: {
      ...content,
      events: {
        ...content.events,
        events: [...content.events.events, { ...usual!, name: 'saving_worked_out', words: 'Saving worked out' }],
        readings: [
          ...content.events.readings,
          {
            id: 'saving',
            words: 'Saving',
            from: 'page',
            name: '/saving',
            attribute: '',
            as: 'number',
            unit: 'GBP',
            swap: '',
          },
        ],
      },
      outcomes: [...content.outcomes, guide, calculated, welcomed, financed],
      telling: [...content.telling, tells('GDE-TAKEN'), tells('FLT-CALC')],
      qualified: { ...content.qualified, conversion: 'GDE-TAKEN' },
    },
  });
  for (const code of ['GDE-TAKEN', 'FLT-CALC'])
    await outside.quillsearch.app.request('/account/outcomes', { method: 'POST', body: new URLSearchParams({ code }) });
  // A new outcome takes hours there before rows count.
  move(time + 4 * 3_600_000);
});

const countedOf = (visitor: string) =>
  rowsOf<{ code: string; name: string; worth: number; state: string | null }>(
    place.db,
    `SELECT o.code, c.name, o.worth_minor AS worth, r.state FROM conversions c
     JOIN outcomes o ON o.subject_id = c.id LEFT JOIN report_backs r ON r.outcome_id = o.id
     WHERE c.visitor_id = ? ORDER BY c.at`,
    [visitor],
  );
const hopsOf = (visitor: string) =>
  rowsOf<{ hop: string; state: string }>(
    place.db,
    `SELECT h.hop, h.state FROM hops h JOIN conversions c ON c.id = h.subject_id WHERE c.visitor_id = ?
     ORDER BY FIELD(h.hop, 'converted', 'told', 'confirmed')`,
    [visitor],
  );

describe('an event of the website', () => {
  it('is counted once for the click that brought it, told to its platform, and stands on a line of its own', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('quillsearch'));
    browser.does('guide_taken', { line: 'fleet' }, release);
    browser.does('guide_taken', { line: 'fleet' }, release);
    await browser.hands();
    expect(await countedOf(browser.visitor)).toMatchObject([
      { code: 'GDE-TAKEN', name: 'guide_taken', state: expect.stringMatching(/told|confirmed/) },
    ]);
    expect(await hopsOf(browser.visitor)).toMatchObject([
      { hop: 'converted', state: 'made_it' },
      { hop: 'told', state: 'made_it' },
      { hop: 'confirmed' },
    ]);
  });

  it('whose conditions do not hold is not counted, nor on the line', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('quillsearch'));
    browser.does('guide_taken', { line: 'shop' }, release);
    await browser.hands();
    expect(await countedOf(browser.visitor)).toEqual([]);
    expect(await hopsOf(browser.visitor)).toEqual([]);
  });

  it('is counted each time where it is said so, worth the amount that it took along', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('quillsearch'));
    browser.does('saving_worked_out', { saving: '120.50' }, release);
    browser.does('saving_worked_out', { saving: '99' }, release);
    await browser.hands();
    expect(await countedOf(browser.visitor)).toMatchObject([
      { code: 'FLT-CALC', worth: 12_050 },
      { code: 'FLT-CALC', worth: 9900 },
    ]);
  });

  it('is not told of somebody who does not agree to advertising', async () => {
    const browser = makeBrowser('no');
    await browser.lands(await clickOn('quillsearch'));
    browser.does('guide_taken', { line: 'fleet' }, release);
    await browser.hands();
    expect(await countedOf(browser.visitor)).toMatchObject([{ code: 'GDE-TAKEN', state: 'held' }]);
  });

  it('shows before it is live what it would have counted of what was recorded', async () => {
    const { written, clicks, newest } = await place.services.outcomeEffect(member, { ...guide, code: 'NEW-ONE' });
    const [{ n } = { n: 0 }] = await rowsOf<{ n: number }>(
      place.db,
      "SELECT COUNT(*) AS n FROM outcomes WHERE code = 'GDE-TAKEN'",
      [],
    );
    expect(n).toBeGreaterThan(0);
    expect(written).toBe(n);
    expect(clicks).toMatchObject([{ platform: 'quillsearch', count: n }]);
    expect(newest[0]).toMatchObject({ words: 'guide_taken' });
    const { told } = await place.services.outcomeEffect(member, guide);
    expect(told).toMatchObject([{ account: 'quillsearch', times: n, tooOld: 0, limitDays: 80 }]);
  });
});

describe('a page of the website', () => {
  it('is counted once for each browser that comes to it, also without any click', async () => {
    const browser = makeBrowser();
    await browser.lands('http://larkmoor.localhost/care/welcome?plan=1');
    await browser.lands('http://larkmoor.localhost/care');
    await browser.lands('http://larkmoor.localhost/care/welcome/again');
    await browser.hands();
    expect(await countedOf(browser.visitor)).toMatchObject([{ code: 'CAR-SEEN', name: '/care/welcome' }]);
    const { written } = await place.services.outcomeEffect(member, { ...welcomed, code: 'NEW-ONE' });
    expect(written).toBe(1);
  });
});

describe('a field of a deal', () => {
  it('is counted once it has the value, at the time it got it, and never again', async () => {
    const { deal } = await ask();
    const found = () =>
      rowsOf<{ at: Date; evidence: object }>(
        place.db,
        "SELECT happened_at AS at, evidence FROM outcomes WHERE code = 'FLT-FINANCE'",
        [],
      );
    /** No webhook says so; the next look at the CRM finds it. */
    const becomes = async (content: string) => {
      move(time + 60_000);
      const at = new Date(time);
      await crm(`/api/deals/${deal}/fields`, { fields: { content } });
      move(time + 3_600_000);
      await rest();
      return at;
    };
    await becomes('asked');
    expect(await found()).toEqual([]);
    const at = await becomes('approved');
    expect(await found()).toMatchObject([{ evidence: { kind: 'field', name: 'content', value: 'approved' } }]);
    const [first] = await found();
    expect(first!.at.getTime() - at.getTime()).toBeLessThan(1000);
    await becomes('asked');
    await becomes('approved');
    expect(await found()).toEqual([first]);
  });
});
