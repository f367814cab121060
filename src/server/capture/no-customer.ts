/* eslint-disable no-await-in-loop -- a host is found beside the last; work is marked in batches */
import type { Sequelize, Transaction } from 'sequelize';
import { isUnder, markParameter } from '../../core/capture';
import { isOwnMail, type NoCustomerRule } from '../../core/capture/no-customer';
import type { NoCustomerView, PastPreview } from '../../core/capture/station-view';
import { counted, type Mark } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { dayIn } from '../days';
import {
  pick,
  selectRows,
  text,
  uuid,
  whole,
  inTransaction,
  markWork,
  plain,
  type BusinessRow,
  type NoCustomerPastRow,
} from '../db';
import type { Membership } from '../people/people';
import { observationStart, observationStartDay } from '../plan/plan';
import { requireEditor, type Draft } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { readOrigin } from './origin';
import type { CaptureStation } from './station';
import { enquiries } from '../leads/table';

/** Subjects marked for work by one statement. */
const atOnce = 2000;

/** Entries of the list that hold for everything ever recorded, because somebody applied them to the past. */
export async function readPast(
  { tables }: Context,
  businessId: string,
  transaction?: Transaction,
): Promise<Omit<NoCustomerRule, 'networks'>> {
  const rows = plain(
    await tables.noCustomersPast.findAll({
      where: { businessId },
      limit: 1000,
      ...(transaction ? { transaction } : {}),
    }),
  );
  const of = (wanted: NoCustomerPastRow['kind']) =>
    rows.filter(({ kind }) => kind === wanted).map(({ value }) => value);
  return { hosts: of('host'), mailDomains: of('mail') };
}

/**
 * Visitors who sent an enquiry whose lead has one of the business's own mail addresses: by the list that was live then,
 * or by what was applied to the past.
 */
export async function readOwnMail(
  db: Sequelize,
  businessId: string,
  visitorIds: string[],
  listOf: (release: number) => Promise<string[]>,
): Promise<Set<string>> {
  if (visitorIds.length === 0) return new Set();
  const rows = await selectRows(
    db,
    {
      visitorId: uuid().of('e.visitor_id'),
      domain: text().of('l.mail_domain'),
      release: whole().of('e.release_number'),
    },
    `FROM enquiries e
     JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id AND l.mail_domain <> ''
     WHERE e.business_id = ? AND e.visitor_id IN (?)`,
    [businessId, visitorIds],
  );
  const own = new Set<string>();
  for (const { visitorId, domain, release } of rows) if (isOwnMail(domain, await listOf(release))) own.add(visitorId);
  return own;
}

/** A mail domain, and whatever lies under it, as a condition with its values. */
const under = (column: string, values: string[]) => ({
  sql: values.map(() => `${column} = ? OR ${column} LIKE CONCAT('%.', ?)`).join(' OR ') || 'FALSE',
  values: values.flatMap((value) => [value, value]),
});

/** Who and what is no customer: how much is marked, and the list applied to what was recorded before. */
export function makeNoCustomer(context: Context, releases: Releases, draft: Draft, { base }: CaptureStation) {
  const { db, tables } = context;

  /** The live entries that do not hold for the past yet. */
  async function notYet(businessId: string) {
    const { hosts, mailDomains } = (await releases.live(businessId)).content.noCustomer;
    const past = await readPast(context, businessId);
    return {
      hosts: hosts.filter((one) => !past.hosts.includes(one)),
      mailDomains: mailDomains.filter((one) => !past.mailDomains.includes(one)),
    };
  }

  /** Hosts that hits came from. They are few, and each is found beside the last: grouping would read every hit's. */
  async function readHosts(businessId: string): Promise<string[]> {
    const hosts: string[] = [];
    for (;;) {
      const [next] = await selectRows(
        db,
        { host: text() },
        'FROM hits WHERE business_id = ? AND host > ? ORDER BY host LIMIT 1',
        [businessId, hosts.at(-1) ?? ''],
      );
      if (!next) return hosts;
      hosts.push(next.host);
    }
  }

  /** Visitors who were ever on one of these hosts, or on one under it. */
  async function readVisitors(businessId: string, own: string[]): Promise<string[]> {
    if (own.length === 0) return [];
    const hosts = (await readHosts(businessId)).filter((host) => own.some((one) => isUnder(host, one)));
    if (hosts.length === 0) return [];
    const rows = await selectRows(
      db,
      { id: uuid().of('visitor_id') },
      'FROM hits WHERE business_id = ? AND host IN (?) GROUP BY visitor_id',
      [businessId, hosts],
    );
    return rows.map(({ id }) => id);
  }

  async function readEnquiries(businessId: string, mailDomains: string[]) {
    const { sql, values } = under('l.mail_domain', mailDomains);
    return selectRows(
      db,
      pick(enquiries, ['id', 'visitorId'], 'e'),
      `FROM enquiries e
       JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
       WHERE e.business_id = ? AND e.marked = '' AND (${sql})`,
      [businessId, ...values],
    );
  }

  /** How much is marked in the last weeks, by why. */
  async function counts({ id: businessId, timeZone }: BusinessRow): Promise<NoCustomerView['marked']> {
    return selectRows(
      db,
      { mark: text<Mark>(), strands: whole().of('SUM(strands)'), enquiries: whole().of('SUM(enquiries)') },
      `FROM (
         SELECT marked AS mark, SUM(strands) AS strands, 0 AS enquiries FROM strand_days
         WHERE business_id = ? AND zone = ? AND day >= ? AND marked <> '' GROUP BY marked
         UNION ALL
         SELECT marked, 0, COUNT(*) FROM enquiries
         WHERE business_id = ? AND sent_at >= ? AND marked <> '' GROUP BY marked) AS both_kinds
       GROUP BY mark ORDER BY SUM(strands) DESC`,
      [businessId, timeZone, observationStartDay(), businessId, observationStart()],
    );
  }

  /** What applying the live list to the past would mark. */
  async function preview(businessId: string): Promise<PastPreview> {
    const entries = await notYet(businessId);
    const [visitors, enquiries] = await Promise.all([
      readVisitors(businessId, entries.hosts),
      readEnquiries(businessId, entries.mailDomains),
    ]);
    return { ...entries, visitors: visitors.length, enquiries: enquiries.length };
  }

  return {
    async view(membership: Membership): Promise<NoCustomerView> {
      const { business } = membership;
      const [marked, { draft: edited }, website] = await Promise.all([
        counts(business),
        draft.content(business.id),
        tables.websites.findOne({ where: { businessId: business.id }, order: [['place', 'ASC']] }),
      ]);
      const enquiries = marked.reduce((sum, row) => sum + row.enquiries, 0);
      const strands = marked.reduce((sum, row) => sum + row.strands, 0);
      const known = await base(membership, () => ({
        title:
          strands + enquiries === 0
            ? 'Everybody counts as a customer so far.'
            : `${counted(strands, 'click', 'clicks')} and ${counted(enquiries, 'enquiry', 'enquiries')} from staff or bots are not counted.`,
        under: 'They are kept and marked, and told to no platform.',
      }));
      const origin = await readOrigin(db, business.id, website?.get({ plain: true }).host ?? '');
      const days = {
        from: dayIn(business.timeZone, observationStart().getTime()),
        to: dayIn(business.timeZone, nowMs()),
      };
      return { ...known, rule: edited.noCustomer, marked, days, link: `${origin}/?${markParameter}=yes` };
    },
    /** What applying the live list to the past would mark; nothing is changed. Looks through everything recorded, so it is asked for. */
    preview: ({ business }: Membership): Promise<PastPreview> => preview(business.id),

    /** Lets the live list hold for everything ever recorded; whoever it concerns is derived again. @throws AVX_ROLE_TOO_SMALL */
    async apply(membership: Membership, personId: string): Promise<PastPreview> {
      requireEditor(membership);
      const { business } = membership;
      const { hosts, mailDomains } = await notYet(business.id);
      const found = await readVisitors(business.id, hosts);
      const enquiries = await readEnquiries(business.id, mailDomains);
      const visitors = [...new Set([...found, ...enquiries.flatMap(({ visitorId }) => visitorId ?? [])])];
      await inTransaction(db, async (transaction) => {
        await tables.noCustomersPast.bulkCreate(
          [
            ...hosts.map((value) => ({ kind: 'host' as const, value })),
            ...mailDomains.map((value) => ({ kind: 'mail' as const, value })),
          ].map((entry) => ({ ...entry, businessId: business.id, appliedBy: personId, appliedAt: now() })),
          { updateOnDuplicate: ['appliedBy', 'appliedAt'], transaction },
        );
        for (let at = 0; at < visitors.length; at += atOnce)
          await markWork(db, 'visitor', business.id, visitors.slice(at, at + atOnce), now(), transaction);
        for (let at = 0; at < enquiries.length; at += atOnce) {
          const ids = enquiries.slice(at, at + atOnce).map(({ id }) => id);
          await markWork(db, 'enquiry', business.id, ids, now(), transaction);
        }
      });
      return { hosts, mailDomains, visitors: found.length, enquiries: enquiries.length };
    },
  };
}
