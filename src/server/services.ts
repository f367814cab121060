import { join } from 'node:path';
import { makeBusinesses } from './businesses';
import { makeCollect } from './capture/collect';
import { openSpool } from './capture/spool/spool';
import { makeSpoolWriter } from './capture/spool/writer';
import { makeDeriveVisitor } from './capture/derive';
import type { Config } from './config';
import type { Context } from './context';
import { connect, defineTables, type WorkKind } from './db';
import { makeHttpClient } from './http';
import { one, makeRunner } from './jobs/runner';
import type { JobHandler } from './jobs/types';
import { makeCrmEvents } from './leads/crm-events';
import { makeCrmPoll } from './leads/crm-poll';
import { makeFollowEnquiry } from './leads/enquiry';
import { makeLeadList } from './leads/list';
import { makePeople } from './people/people';
import { makeAccounts } from './platforms/accounts';
import { makeReadReport } from './platforms/report';
import { makeReleases } from './releases/releases';
import { makeTell } from './reportbacks/tell';
import { makeSetUpBusiness } from './setup';
import { makeStrandPages } from './strands/line';
import { makeTraces } from './strands/trace';

export type Services = ReturnType<typeof makeServices>;

/** Builds every service of one process over one connection pool. */
export function makeServices(config: Config) {
  const db = connect(config.databaseUrl);
  const context: Context = { db, tables: defineTables(db), config, http: makeHttpClient(config.privateHosts) };
  const releases = makeReleases(context);
  const spool = openSpool(join(config.dataDir, 'spool'));
  const accounts = makeAccounts(context);
  const crmEvents = makeCrmEvents(context, accounts, releases);
  const handlers: Record<WorkKind, JobHandler> = {
    visitor: one(makeDeriveVisitor(context, releases)),
    crm_poll: one(makeCrmPoll(context, accounts)),
    crm_event: one(async (businessId, subject) => {
      await crmEvents.read(businessId, subject);
      return null;
    }),
    enquiry: one(makeFollowEnquiry(context, releases)),
    report_back: makeTell(context, accounts),
    platform_report: one(makeReadReport(context, accounts)),
  };
  return {
    context,
    config,
    releases,
    accounts,
    crmEvents,
    businesses: makeBusinesses(context),
    people: makePeople(context),
    collect: makeCollect(releases, spool),
    spool,
    spoolWriter: makeSpoolWriter(context, spool),
    leads: makeLeadList(context, releases),
    strands: makeStrandPages(context, releases),
    traces: makeTraces(context, releases),
    setUpBusiness: makeSetUpBusiness(context, releases),
    runner: makeRunner(context, handlers),
  };
}
