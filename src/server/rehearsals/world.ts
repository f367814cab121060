/* eslint-disable no-await-in-loop -- a link may lead to another one */
import { setTimeout as wait } from 'node:timers/promises';
import { splitAddress } from '../../core/capture';
import type { CrmField } from '../../core/crms';
import type { CrmRecord } from '../../core/leads';
import { readAmount, type Money } from '../../core/outcomes';
import { nothingKnown, readLine, type KnownWorld } from '../../core/rehearsal';
import type { ReleaseContent } from '../../core/releases';
import type { SeenOnPage } from '../../core/capture/forms-seen';
import { readOrigin } from '../capture/origin';
import type { CaptureStation } from '../capture/station';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { readPathsSeen } from '../capture/queries';
import type { Crms } from '../crms/crm';
import { json, plain, selectRows, type BusinessRow } from '../db';
import type { Openers } from '../events/openers';
import { readPresses } from '../events/presses';
import { makeLastKnown } from '../last-known';
import type { ShortLinkBook } from '../links/short-link-book';
import type { Accounts } from '../platforms/accounts';

const day = 86_400_000;
const weeks = 8;
/** How long (ms) what was seen lately is taken as known: a rehearsal is asked for at each line that is typed. */
const freshFor = 15_000;
/** How long (ms) the CRM may take to say its fields before a rehearsal goes on without them. */
const patience = 400;
const mostPaths = 300;
/** Links on the way to a page. */
const mostSteps = 5;

type Seen = Pick<KnownWorld, 'website' | 'forms' | 'presses' | 'paths' | 'dealAmounts' | 'orderAmounts'>;

/** What is known of a business's website, CRM and accounts, for pretend visitors to walk through. */
export function makeKnownWorld(
  { db, tables }: Context,
  accounts: Accounts,
  crms: Crms,
  openers: Openers,
  shortLinks: ShortLinkBook,
  capture: Pick<CaptureStation, 'seenForms' | 'inCrm' | 'checkedPages'>,
) {
  const seen = makeLastKnown(async (businessId): Promise<Seen> => {
    const since = new Date(nowMs() - weeks * 7 * day);
    const websites = plain(
      await tables.websites.findAll({ where: { businessId }, order: [['place', 'ASC']], limit: 1 }),
    );
    const host = websites[0]?.host ?? '';
    const [website, forms, presses, paths, deals, order] = await Promise.all([
      host ? readOrigin(db, businessId, host) : '',
      capture.seenForms(businessId),
      readPresses(db, businessId, since),
      readPathsSeen(db, businessId, since, mostPaths),
      selectRows(db, { record: json<CrmRecord>() }, 'FROM deals WHERE business_id = ? ORDER BY made_at DESC LIMIT 50', [
        businessId,
      ]),
      tables.orders.findOne({ where: { businessId, marked: '' }, order: [['at', 'DESC']] }),
    ]);
    const { currency = '', amounts = [] } = order?.get({ plain: true }) ?? {};
    return {
      website,
      forms: forms.map(toForm),
      presses: withoutRepeats(
        presses.map(({ press, address }) => ({ path: splitAddress(address)?.path ?? '', press })),
        ({ path, press }) => JSON.stringify([path, press]),
      ),
      paths,
      dealAmounts: Object.assign({}, ...deals.map(({ record }) => record.amounts).reverse()) as Record<string, Money>,
      orderAmounts: Object.fromEntries(
        amounts.flatMap(({ name, amount }) => {
          const money = readAmount(amount, currency);
          return money ? [[name, money] as const] : [];
        }),
      ),
    };
  }, freshFor);

  const crmFields = makeLastKnown(async (businessId): Promise<CrmField[] | null> => {
    const crm = await crms.of(businessId);
    const asked = crm?.contract.fields;
    return asked ? crm.ask(asked).catch(() => null) : null;
  }, freshFor * 20);

  const inCrm = makeLastKnown((businessId) => capture.inCrm(businessId), freshFor);
  const checked = makeLastKnown(async (businessId) => {
    const pages = await capture.checkedPages(businessId);
    const steps = pages.flatMap(({ steps: all, faults }) => {
      const lost = faults.some(({ code }) => code === 'query_lost');
      return all
        .filter(({ to }) => to !== '')
        .map(({ url, to }): [string, KnownWorld['sendsOn'][string]] => [
          bareOf(url),
          lost ? { to, wins: 'neither' } : { to: bareOf(to), wins: 'visitor' },
        ]);
    });
    return {
      sendsOn: Object.fromEntries(steps),
      withoutSnippet: pages.filter(({ snippets }) => snippets === 0).map(({ page }) => page),
    };
  }, freshFor);

  async function accountsOf(businessId: string, { platforms }: ReleaseContent): Promise<KnownWorld['accounts']> {
    const [all, open] = await Promise.all([accounts.all(businessId), openers.of(businessId, platforms)]);
    return all.map(({ key, name, kind, pausedAt, retiredAt, settings }) => ({
      key,
      name,
      kind,
      state: retiredAt ? 'retired' : pausedAt ? 'paused' : 'ready',
      currency: settings.currency ?? '',
      hasOpener: key in open,
    }));
  }

  /** Where the links of a walk lead: the business's short links, and what the newest page check saw send on. */
  async function sendsOn(businessId: string, addresses: string[]): Promise<KnownWorld['sendsOn']> {
    const known: Record<string, KnownWorld['sendsOn'][string]> = {};
    let left = addresses;
    for (let step = 0; step < mostSteps && left.length > 0; step++) {
      const found = await Promise.all(left.map((address) => sendsOnOne(businessId, address)));
      for (const one of found) Object.assign(known, one);
      left = found.flatMap((one) => Object.values(one).map(({ to }) => bareOf(to))).filter((to) => !(to in known));
    }
    return known;
  }

  async function sendsOnOne(businessId: string, address: string): Promise<KnownWorld['sendsOn']> {
    const [, path] = /^https?:\/\/[^/]+\/go\/(?:[^/]+\/)?([a-z0-9-]+)$/.exec(address) ?? [];
    const short = path ? await shortLinks.find(businessId, path) : null;
    if (short) return { [address]: { to: short.destination, wins: short.wins } };
    const on = (await checked.get(businessId)).sendsOn[address];
    return on ? { [address]: on } : {};
  }

  return {
    accountsOf,

    /** @param lines those that will be walked: what their links lead to is looked up */
    async of(business: BusinessRow, content: ReleaseContent, lines: readonly string[]): Promise<KnownWorld> {
      const { id } = business;
      const [known, { withoutSnippet }, crm, fields, own] = await Promise.all([
        seen.get(id),
        checked.get(id),
        inCrm.get(id),
        Promise.race([crmFields.get(id), wait(patience, null)]),
        accountsOf(id, content),
      ]);
      const addresses = lines.flatMap((line) => {
        const read = readLine(line);
        if (!('step' in read) || read.step.does !== 'arrive') return [];
        const { address } = read.step;
        return bareOf(address.startsWith('/') ? known.website + address : address);
      });
      return {
        ...nothingKnown(known.website),
        ...known,
        withoutSnippet,
        inCrm: crm,
        crmFields: fields,
        accounts: own,
        currency: business.currency,
        sendsOn: await sendsOn(id, addresses),
      };
    },
  };
}

export type KnownWorlds = ReturnType<typeof makeKnownWorld>;

const bareOf = (address: string): string => address.split(/[?#]/)[0]!;

const toForm = ({ form, page, fields, fills }: SeenOnPage): KnownWorld['forms'][number] => ({
  form,
  path: page.slice(page.indexOf('/')),
  fields,
  found: fills.filter(({ state }) => state !== 'not_found' && state !== 'near').map(({ rule }) => rule),
});

function withoutRepeats<T>(all: T[], keyOf: (one: T) => string): T[] {
  return [...new Map(all.map((one) => [keyOf(one), one])).values()];
}
