import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { makeLarkmoor } from './larkmoor';
import { makeOakledger } from './oakledger';
import { readSurroundings, type Surroundings } from './shared/surroundings';

let folder: string;
const surroundings = (faults = 'yes'): Surroundings =>
  readSurroundings({
    STANDINS_PORT: '5000',
    STANDINS_DATA: folder,
    STANDINS_SECRET: 's'.repeat(20),
    STANDINS_FAULTS: faults,
    STANDINS_SCRIPT: 'http://t.larkmoor.localhost:4300/b/larkmoor.js',
  });

beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'standins-'))));
afterEach(() => rmSync(folder, { recursive: true }));

describe('Oakledger’s campaigns', () => {
  interface Campaign {
    id: string;
    title: string;
    type: string;
    budget: unknown;
  }
  const open = (faults?: string) => {
    const around = surroundings(faults);
    const { app } = makeOakledger(around);
    const headers = { authorization: `Bearer ${around.key('oakledger token')}` };
    const read = async (path: string) => (await app.request(`/api/${path}`, { headers })).json();
    return {
      app,
      campaigns: async () => ((await read('campaigns')) as { campaigns: Campaign[] }).campaigns,
      types: async () => ((await read('campaign-types')) as { types: string[] }).types,
    };
  };
  const form = (fields: Record<string, string>) => ({ method: 'POST', body: new URLSearchParams(fields) });
  const filled = {
    title: 'Spring',
    tracking_name: 'uk-27q2-shop-spring',
    type: 'Letter',
    starts_on: '2027-04-01',
    ends_on: '2027-04-30',
  };

  it('are given to whoever knows the token, with their types', async () => {
    const { app, campaigns, types } = open();
    expect((await app.request('/api/campaigns')).status).toBe(401);
    expect(await campaigns()).toHaveLength(9);
    expect((await campaigns())[0]).toMatchObject({
      id: 'C-101',
      title: 'Winterproof',
      type: 'Search ads',
      budget: { amount: '18000.00', currency: 'GBP' },
    });
    expect(await types()).toContain('Workshop days');
  });

  it('lack a type where the demo has its faults', async () => {
    expect(await open().types()).not.toContain('Display ads');
    expect(await open('no').types()).toContain('Display ads');
  });

  it('are made, changed and archived on their page, and stay so after a restart', async () => {
    const first = open();
    expect((await first.app.request('/campaigns', form(filled))).status).toBe(303);
    expect((await first.app.request('/campaigns', form({ ...filled, id: 'C-105', title: 'Renamed' }))).status).toBe(
      303,
    );
    expect((await first.app.request('/campaigns/C-101/archive', { method: 'POST' })).status).toBe(303);
    const again = await open().campaigns();
    expect(again.map(({ id }) => id)).not.toContain('C-101');
    expect(again.find(({ id }) => id === 'C-105')!.title).toBe('Renamed');
    expect(again.find(({ title }) => title === 'Spring')!.id).toBe('C-110');
  });

  it('with something missing are refused, field by field', async () => {
    const { app, campaigns } = open();
    const answer = await app.request('/campaigns', form({ ...filled, title: '', starts_on: 'soon' }));
    expect([answer.status, await answer.text()]).toEqual([
      ...[422, 'title: must not be empty\nstarts_on: must be a day such as 2027-01-14'],
    ]);
    expect((await app.request('/campaigns/C-999/archive', { method: 'POST' })).status).toBe(404);
    expect(await campaigns()).toHaveLength(9);
  });

  it('are shown on a page of their own', async () => {
    const page = await (await open().app.request('/campaigns')).text();
    expect(page).toContain('9 campaigns');
    expect(page).toContain('value="uk-27q1-fleet-winterproof"');
  });
});

describe('the Larkmoor website', () => {
  const linesOn = async (path: string, faults?: string) => {
    const page = await (await makeLarkmoor(surroundings(faults)).app.request(path)).text();
    return page.split('/b/larkmoor.js').length - 1;
  };
  it('carries the pasted line once on each page; with faults it was forgotten on one and stands on one twice', async () => {
    for (const path of ['/', '/fleet', '/shop', '/care', '/thank-you']) expect(await linesOn(path), path).toBe(1);
    expect([await linesOn('/guide'), await linesOn('/fleet/lease')]).toEqual([0, 2]);
    expect([await linesOn('/guide', 'no'), await linesOn('/fleet/lease', 'no')]).toEqual([1, 1]);
  });

  it('sends the old bakery page on, with faults without what stood behind the question mark', async () => {
    const moved = async (faults?: string) =>
      (await makeLarkmoor(surroundings(faults)).app.request('/bakery?utm_source=printed&qsid=1')).headers.get(
        'location',
      );
    expect(await moved()).toBe('/fleet');
    expect(await moved('no')).toBe('/fleet?utm_source=printed&qsid=1');
  });
});
