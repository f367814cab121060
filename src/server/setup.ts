/* eslint-disable no-await-in-loop -- one set-up, each part after what it needs */
import { getDomain } from 'tldts';
import { z } from 'zod';
import type { Transaction } from 'sequelize';
import { dialKey } from '../core/leads/calls';
import { callNumberSchema, callSettingsSchema } from '../core/leads/calls-view';
import { currencySchema, timeZoneSchema } from '../core/businesses/schema';
import { newLinkSchema, tagSetSchema } from '../core/links/schema';
import { shortLinkSchema } from '../core/links/short-link';
import { campaignSchema } from '../core/plan/campaign';
import { mailSettingsSchema } from '../core/leads/routines/mail-set-up-schema';
import { mailGivenSchema, routineMeansSchema } from '../core/leads/routines/schema';
import { contractOf } from '../core/platforms';
import { rateGivenSchema } from '../core/results/cost-view';
import { rateMillionths } from '../core/results/cost-words';
import { releaseContentSchema } from '../core/releases/schema';
import { now } from './clock';
import type { Context } from './context';
import { inTransaction, markWork } from './db';
import { newId } from './ids';
import { readCallSettings } from './leads/calls/settings';
import type { makeLinks } from './links/links';
import type { makeLinkBuilder } from './links/making';
import type { makeShortLinks } from './links/short-links';
import type { makeCampaigns } from './plan/campaigns';
import { accountSecretsSchema } from './platforms/accounts';
import { seal } from './secrets';
import type { Releases } from './releases/releases';

/** A business with all that it begins with: websites, connected accounts, release 1. */
export const setupSchema = z.object({
  key: z.string().regex(/^[a-z0-9][a-z0-9-]{1,38}$/, 'must be lower case letters, digits and hyphens'),
  name: z.string().min(1).max(120),
  timeZone: timeZoneSchema,
  currency: currencySchema,
  websites: z.array(z.string().max(253)).min(1),
  accounts: z.array(
    z.object({
      key: z.string().regex(/^[a-z0-9-]{1,40}$/),
      kind: z.string().max(40),
      name: z.string().max(120),
      endpoint: z.url({ protocol: /^https?$/ }),
      settings: z.record(z.string(), z.string()),
      secrets: accountSecretsSchema,
    }),
  ),
  /** What it has made of its plan already. */
  campaigns: z.array(campaignSchema).default([]),
  tagSets: z.array(tagSetSchema).default([]),
  links: z.array(newLinkSchema).default([]),
  shortLinks: z.array(shortLinkSchema).default([]),
  /** By which what ads cost in other currencies is counted. */
  exchangeRates: z.array(rateGivenSchema).default([]),
  calls: z
    .object({
      secret: z.string(),
      reading: callSettingsSchema.shape.reading,
      numbers: z.array(callNumberSchema.omit({ id: true })),
    })
    .optional(),
  /** Emails and routines, which are not started. */
  mail: z
    .object({
      settings: mailSettingsSchema.extend({ password: z.string() }),
      repliesSecret: z.string(),
      mails: z.array(mailGivenSchema.pick({ name: true, subject: true, text: true }).extend({ id: z.uuid() })),
      routines: z.array(z.object({ name: z.string(), means: routineMeansSchema })),
    })
    .optional(),
  release: z.object({ name: z.string().max(120), note: z.string().max(1000), content: releaseContentSchema }),
});
export type Setup = z.infer<typeof setupSchema>;

/** The stations that a new business's work is made in. */
interface Stations {
  campaigns: ReturnType<typeof makeCampaigns>;
  making: ReturnType<typeof makeLinkBuilder>;
  links: ReturnType<typeof makeLinks>;
  shortLinks: ReturnType<typeof makeShortLinks>;
}

/** Makes businesses. Every person who is there becomes an owner of the new one. */
export function makeSetUpBusiness({ db, tables, config }: Context, releases: Releases, stations: Stations) {
  /** Campaigns and links are made as their owner makes them. */
  async function makeWork(businessId: string, { campaigns, tagSets, links, shortLinks }: Setup): Promise<void> {
    const role = (await tables.roles.findOne({ where: { businessId, role: 'owner' } }))?.get({ plain: true });
    const business = (await tables.businesses.findOne({ where: { id: businessId } }))!.get({ plain: true });
    if (!role) return;
    const membership = { business, role };
    await stations.campaigns.take(membership, campaigns, []);
    for (const set of tagSets) await stations.making.saveTagSet(membership, set);
    if (links.length > 0) await stations.links.add(membership, links);
    for (const link of shortLinks) await stations.shortLinks.save(membership, role.personId, null, link);
  }

  async function makeCalls(businessId: string, calls: NonNullable<Setup['calls']>, transaction: Transaction) {
    const usual = await readCallSettings({ tables }, businessId);
    const row = { ...usual, reading: calls.reading, secret: seal(config.secretKey, calls.secret), changedAt: now() };
    await tables.callSettings.create(row, { transaction });
    await tables.callNumbers.bulkCreate(
      calls.numbers.map((number) => ({
        ...number,
        businessId,
        id: newId(),
        dialKey: dialKey(number.number),
        madeAt: now(),
        retiredAt: null,
      })),
      { transaction },
    );
  }

  async function makeMail(businessId: string, mail: NonNullable<Setup['mail']>, transaction: Transaction) {
    const { password, ...settings } = mail.settings;
    await tables.mailSettings.create(
      {
        businessId,
        ...settings,
        password: seal(config.secretKey, password),
        repliesSecret: seal(config.secretKey, mail.repliesSecret),
        lastReplyAt: null,
        changedAt: now(),
      },
      { transaction },
    );
    const made = { businessId, madeAt: now(), changedAt: now() };
    await tables.mailTemplates.bulkCreate(
      mail.mails.map(({ id, name, subject, text }) => ({
        ...made,
        id,
        name,
        body: { subject, text, html: '' },
        retiredAt: null,
      })),
      { transaction },
    );
    await tables.routines.bulkCreate(
      mail.routines.map(({ name, means }) => ({
        ...made,
        id: newId(),
        name,
        means,
        state: 'draft' as const,
        startedAt: null,
        unbrakedUntil: null,
      })),
      { transaction },
    );
  }

  /** @returns the business's ID. @throws where its key is taken */
  return async function setUpBusiness(setup: Setup): Promise<string> {
    const businessId = newId();
    await inTransaction(db, async (transaction) => {
      const { key, name, timeZone, currency } = setup;
      await tables.businesses.create(
        { id: businessId, key, name, timeZone, currency, createdAt: now() },
        { transaction },
      );
      await tables.websites.bulkCreate(
        setup.websites.map((host, place) => ({ businessId, host, registrable: getDomain(host) ?? host, place })),
        { transaction },
      );
      const accounts = setup.accounts.map(({ secrets, ...account }) => ({
        ...account,
        businessId,
        id: newId(),
        secrets: seal(config.secretKey, secrets),
        createdAt: now(),
      }));
      await tables.accounts.bulkCreate(accounts, { transaction });
      const people = await tables.people.findAll({ attributes: ['id'], limit: 200, transaction });
      await tables.roles.bulkCreate(
        people.map((person) => ({
          businessId,
          personId: person.get('id') as string,
          role: 'owner' as const,
          mayRelease: true,
          seesPeople: true,
          seesMoney: true,
        })),
        { transaction },
      );
      const reporting = accounts.filter(({ kind }) => contractOf(kind, [])?.report).map((account) => account.id);
      await markWork(db, 'platform_report', businessId, reporting, now(), transaction);
      const crms = accounts
        .filter((account) => account.key === setup.release.content.crm?.account)
        .map((account) => account.id);
      await markWork(db, 'crm_poll', businessId, crms, now(), transaction);
      await tables.exchangeRates.bulkCreate(
        setup.exchangeRates.map(({ currency, day, rate }) => ({
          businessId,
          id: newId(),
          currency,
          day,
          millionths: rateMillionths(rate),
          madeBy: '',
          madeAt: now(),
          retiredAt: null,
        })),
        { transaction },
      );
      if (setup.calls) await makeCalls(businessId, setup.calls, transaction);
      if (setup.mail) await makeMail(businessId, setup.mail, transaction);
    });
    await releases.make(businessId, setup.release);
    await makeWork(businessId, setup);
    return businessId;
  };
}
