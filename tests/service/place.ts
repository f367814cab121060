import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { readConfig } from '../../src/server/config';
import { setClock } from '../../src/server/clock';
import { connect, migrate, type StandingRow, type StrandRow } from '../../src/server/db';
import type { Membership } from '../../src/server/people/people';
import { makeCrms } from '../../src/server/crms/crm';
import { makeCrmArrivals } from '../../src/server/leads/arrivals';
import { makeCrmPoll } from '../../src/server/leads/crm-poll';
import { makeRollUp } from '../../src/server/rollups/roll-up';
import { makeServices, type Services } from '../../src/server/services';

/** 2027-02-01, 12:00 UTC. */
export const noon = Date.UTC(2027, 1, 1, 12);
export const day = 86_400_000;

/** A database of its own for one test file, migrated, with every service over it. */
export async function makePlace(environment: Record<string, string> = {}) {
  const url = new URL(process.env.TEST_DATABASE_URL!);
  const name = `avrix_test_${randomBytes(6).toString('hex')}`;
  const first = connect(url.href);
  await first.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin`);
  await first.close();
  url.pathname = `/${name}`;
  const folder = mkdtempSync(join(tmpdir(), 'avrix-place-'));
  const config = readConfig({
    AVRIX_DATA: folder,
    AVRIX_DATABASE_URL: url.href,
    AVRIX_SECRET_KEY: randomBytes(32).toString('hex'),
    AVRIX_ROLL_UP_SECONDS: '0',
    ...environment,
  });
  const services = makeServices(config);
  const { db } = services.context;
  await migrate(db);
  setClock(noon);
  return {
    services,
    db,
    url: url.href,
    async end() {
      setClock(null);
      await db.query(`DROP DATABASE ${name}`);
      await services.spool.close();
      await db.close();
      rmSync(folder, { recursive: true });
    },
  };
}

/** Asks a CRM what changed, as its job does. @returns when it would ask again */
export function pollCrm({ context, accounts, releases, draft }: Services, businessId: string, accountId: string) {
  const arrivals = makeCrmArrivals(context, releases, draft);
  return makeCrmPoll(context, makeCrms(context, accounts, releases), arrivals)(businessId, accountId);
}

/** Adds up by day what a test wrote into the tables by itself. */
export async function addUp({ services, db }: { services: Services; db: Sequelize }, businessId: string) {
  await db.query('DELETE FROM roll_up_zones');
  await makeRollUp(services.context)(businessId);
}

export const rowsOf = <Row extends object>(db: Sequelize, sql: string, replacements: unknown[] = []): Promise<Row[]> =>
  db.query<Row>(sql, { replacements, type: QueryTypes.SELECT });

/** A UUID version 7 at a time, told apart by a number. */
export function idAt(at: number, n: number): string {
  const hex = at.toString(16).padStart(12, '0');
  return `${hex.slice(0, 8)}-${hex.slice(8)}-7000-8000-${n.toString(16).padStart(12, '0')}`;
}

/** Sets up Larkmoor with its accounts at the given addresses; the same set-up as the demo's. */
export async function setUpLarkmoor(
  services: Services,
  places: {
    quillsearch: string;
    oakledger: string;
    wrenwick?: string;
    meterhall?: string;
    tessaloop?: string;
    key: (name: string) => string;
  },
) {
  const { larkmoorSetup } = await import('../../demo/setup/business');
  const { setupSchema } = await import('../../src/server/setup');
  const setup = setupSchema.parse(larkmoorSetup(places as never));
  const id = await services.setUpBusiness(setup);
  return { id, known: (await services.businesses.byKey('larkmoor'))! };
}

/** An editor of Larkmoor who may release and sees everything. */
export async function makeEditor(
  services: Services,
  businessId: string,
  name = 'Anna',
): Promise<{ editor: string; member: Membership }> {
  const editor = await services.people.create(`${name.toLowerCase()}@larkmoor.example`, name, 'a long password');
  await services.people.grant({
    businessId,
    personId: editor,
    role: 'editor',
    mayRelease: true,
    seesPeople: true,
    seesMoney: true,
  });
  const [member] = await services.people.memberships(editor);
  return { editor, member: member! };
}

/** How a strand stands on enquiries by form, as following it would leave it; up to Kept it is what all ways in share. */
export async function standAt(
  { services }: { services: Services },
  strand: Pick<StrandRow, 'businessId' | 'id' | 'firstAt'>,
  { reached, state, reason }: Pick<StandingRow, 'reached' | 'state' | 'reason'>,
  transaction?: Transaction,
): Promise<void> {
  const of = { businessId: strand.businessId, strandId: strand.id, firstAt: strand.firstAt };
  const goesOn = reached > 3 || state === 'lost';
  const shared =
    goesOn && reached >= 3
      ? { reached: 3, state: 'left' as const, reason: '{"code":"visit_ended"}' }
      : { reached, state, reason };
  const rows: StandingRow[] = [{ ...of, wayIn: 'none', ...shared }];
  if (goesOn && reached >= 3) rows.push({ ...of, wayIn: 'form', reached, state, reason });
  await services.context.tables.standings.bulkCreate(rows, transaction ? { transaction } : {});
}

/** A place with Larkmoor set up, none of whose services answers, and somebody who may edit it; it is noon. */
export async function placeOfLarkmoor() {
  const place = await makePlace();
  const nobody = 'http://nobody.example';
  const key = (name: string) => `${name} of this test`;
  const larkmoor = await setUpLarkmoor(place.services, { quillsearch: nobody, oakledger: nobody, key });
  const { member } = await makeEditor(place.services, larkmoor.id);
  return { place, larkmoor, member };
}
