import { join } from 'node:path';
import { makeApi } from './api/answer';
import { makeBusinessMaking } from './businesses/making';
import { makeBusinesses } from './businesses';
import { makeCarried } from './capture/carried';
import { makeCollect } from './capture/collect';
import { makeCountLanding } from './capture/counted-landings';
import { makeTrials } from './capture/trials';
import { makeCountRefusedBody } from './capture/refused-bodies';
import { makeStoppedWork } from './capture/stopped-work';
import { makeTakeStopped } from './capture/stopped-pages';
import { makeCaptureEffect } from './capture/effect';
import { makeElsewhereStation } from './capture/elsewhere-station';
import { makeFoundArrivals } from './capture/found-arrivals';
import { makeKeptTraffic } from './capture/kept-traffic';
import { makeSwapsStation } from './capture/swaps-station';
import { makeCapture } from './capture/station';
import { makeNoCustomer } from './capture/no-customer';
import { openSpool } from './capture/spool/spool';
import { makeSpoolWriter } from './capture/spool/writer';
import { makeDeriveVisitors } from './capture/derive';
import { makeChanges } from './changes/changes';
import type { Config } from './config';
import { makeOwnCrmArrivals } from './connections/arrivals';
import { makeConnections } from './connections/connections';
import { makeTryAccounts } from './connections/try';
import { makeWebsiteCheck } from './connections/website-check';
import type { Context } from './context';
import { nowMs } from './clock';
import { connect, defineTables, setLease } from './db';
import { files } from './files/tables';
import { makeFind } from './find/find';
import { makeFolders } from './files/folders';
import { makeHttpClient } from './http';
import { makeInterface } from './interface/answer';
import { brakeJob } from './jobs/brake';
import { callJob } from './jobs/call';
import { crmEventJob } from './jobs/crm-event';
import { crmPollJob } from './jobs/crm-poll';
import { handOverJob } from './jobs/hand-over';
import { leadPullJob } from './jobs/lead-pull';
import { crmWriteJob } from './jobs/crm-write';
import { enquiryJob } from './jobs/enquiry';
import { orderJob } from './jobs/order';
import { filedFileJob } from './jobs/filed-file';
import { conversionJob } from './jobs/conversion';
import { subscriptionJob } from './jobs/subscription';
import { routineLookJob, routineStepJob, routineTakeJob } from './jobs/routine';
import { linkCheckJob } from './jobs/link-check';
import { pageCheckJob } from './jobs/page-check';
import { eventTellingJob } from './jobs/event-telling';
import { platformReportJob } from './jobs/platform-report';
import { reportBackJob } from './jobs/report-back';
import { rollUpJob } from './jobs/roll-up';
import { makeRunner } from './jobs/runner';
import { visitorJob } from './jobs/visitor';
import { makeCrmArrivals } from './leads/arrivals';
import { makeCrmEvents } from './leads/crm-events';
import { makeCrmPoll } from './leads/crm-poll';
import { makeCrms } from './crms/crm';
import { makeCrmStation } from './crms/station';
import { makeEventEffect } from './events/effect';
import { makeBeforeRelease } from './events/before-release';
import { makeCatalogues } from './events/catalogue';
import { makeOpeners } from './events/openers';
import { makePointing } from './events/pointing';
import { makeTellEvents } from './events/tell';
import { makeToldEvents } from './events/told';
import { makeEventsStation } from './events/station';
import { makePretend } from './outcomes/pretend';
import { makeOutcomeEffect } from './outcomes/effect';
import { makeOutcomesStation } from './outcomes/station';
import { makeMembers } from './people/members';
import { makeBrakes } from './reportbacks/brakes';
import { makeHeldAsOne } from './reportbacks/held-as-one';
import { makeFollowOrders } from './orders/follow';
import { makeFiledStation } from './outcomes/filed/station';
import { makeTakeFiled } from './outcomes/filed/take';
import { makeFollowConversions } from './conversions/follow';
import { makeFollowSubscriptions } from './subscriptions/follow';
import { makeFollowEnquiries } from './leads/enquiry';
import { makeBehindStation } from './results/behind-station';
import { makeCostRules } from './results/cost-rules';
import { makeCostStation } from './results/cost-station';
import { makeDayNotes } from './results/day-notes';
import { makeJustIn } from './results/just-in';
import { makeSavedViews } from './results/saved-views';
import { makeMonthsStation } from './results/months-station';
import { makeRipeDays } from './results/ripe-days';
import { makeRipenessStation } from './results/ripeness-station';
import { makeThreeCountsStation } from './results/three-counts-station';
import { makeVisitsStation } from './results/visits-station';
import { makeFiguresStation } from './results/figures-station';
import { makeFunnelStation } from './results/funnel-station';
import { makeAnswersStation } from './leads/answers-station';
import { makeFollowCall } from './leads/calls/follow';
import { makeCallsStation } from './leads/calls/station';
import { makeSegmentsStation } from './leads/segments/station';
import { makeTakeCalls } from './leads/calls/take';
import { makeNotices } from './outcomes/notices/list';
import { makeSenders } from './outcomes/notices/senders';
import { makeTakeNotices } from './outcomes/notices/take';
import { makeErase } from './leads/erasing/erase';
import { makeHandOver } from './leads/hand-over';
import { makeImportsStation } from './leads/imports/station';
import { makeTakeImport } from './leads/imports/take';
import { makeLeadFormsStation } from './leads/lead-forms-station';
import { makeLeadList } from './leads/list';
import { makePersonExport } from './leads/person-export';
import { makePullLeads } from './leads/pull-leads';
import { makeRecordsStation } from './leads/records-station';
import { makeRepairStation } from './leads/repair-station';
import { makeAct } from './leads/routines/acts';
import { makeRuns } from './leads/routines/runs';
import { makeRoutinesStation } from './leads/routines/station';
import { makeStepOn } from './leads/routines/step';
import { makeTakeLeads } from './leads/routines/take';
import { makeTryRoutine } from './leads/routines/try';
import { makeSayQuality } from './leads/say-quality';
import { makeWriteBack } from './leads/write-back';
import { makeWritesStation } from './leads/writes-station';
import { makeMailStation } from './mail/station';
import { makeTakeReply } from './mail/replies';
import { makeSendMail } from './mail/smtp';
import { makeStopPage } from './mail/stop-page';
import { makeMailTemplates } from './mail/templates';
import { makeNotLive } from './releases/not-live';
import { makePeople } from './people/people';
import { makeTokens } from './people/tokens';
import { makeAccounts } from './platforms/accounts';
import { makeNoteAnswer } from './platforms/note-answer';
import { makeCallLimit } from './platforms/call-limit';
import { makeReadReport } from './platforms/report';
import { makeLinkPlans } from './links/link-plan';
import { makeLinks } from './links/links';
import { makeLinkBuilder } from './links/making';
import { makePageChecks } from './links/page-checks';
import { makeShortLinkBook } from './links/short-link-book';
import { makeShortLinks } from './links/short-links';
import { makeCampaignNames } from './plan/campaign-names';
import { makeCampaignLinks } from './plan/campaign-links';
import { makeCampaigns } from './plan/campaigns';
import { makeChannels } from './plan/channel-service';
import { makeSources } from './plan/sources';
import { makePlan } from './plan/plan';
import { makePlanShare } from './plan/share';
import { makeReachable } from './reachable';
import { makeRealWalk } from './rehearsals/real-walk';
import { makeRehearsals } from './rehearsals/rehearsals';
import { makeKnownWorld } from './rehearsals/world';
import { makeDraft } from './releases/draft';
import { makeReleases } from './releases/releases';
import { makeReleasing } from './releases/releasing';
import { makeReportBacks } from './reportbacks/decide';
import { makeQueue } from './reportbacks/queue';
import { makeComparing } from './reportbacks/comparing';
import { makeAskKeys } from './reportbacks/person-keys';
import { makeTell } from './reportbacks/tell';
import { makeRollUp } from './rollups/roll-up';
import { makeSetUpBusiness } from './setup';
import { makeStrandPages } from './strands/line';
import { makeStrip } from './strands/strip';
import { makeTraces } from './strands/trace';

export type DomainServices = ReturnType<typeof makeDomainServices>;
export type Services = ReturnType<typeof makeServices>;

/** Builds every service of one process over one connection pool, and what programs and pages ask of them. */
export function makeServices(config: Config) {
  const services = makeDomainServices(config);
  return { ...services, api: makeApi(services), interface: makeInterface(services) };
}

function makeDomainServices(config: Config) {
  const db = connect(config.databaseUrl);
  setLease(config.leaseSeconds);
  const tables = defineTables(db);
  const http = makeHttpClient(config.privateHosts);
  const folders = makeFolders(config.exportsDir);
  const { databaseUrl, resultsDatabaseUrl } = config;
  const resultsDb = resultsDatabaseUrl === databaseUrl ? db : connect(resultsDatabaseUrl);
  const context: Context = { db, resultsDb, tables, config, http, folders, note: makeNoteAnswer(tables) };
  const releases = makeReleases(context);
  const spool = openSpool(join(config.dataDir, 'spool'));
  const accounts = makeAccounts(context);
  const crms = makeCrms(context, accounts, releases);
  const collect = makeCollect(releases, spool, config.hitsPerVisitor);
  const businesses = makeBusinesses(context);
  const carried = makeCarried(context, releases, collect);
  const changes = makeChanges(context);
  const draft = makeDraft(context, releases, changes);
  const openers = makeOpeners(context);
  const connections = makeConnections(context, accounts, draft, changes, openers);
  const arrivals = makeCrmArrivals(context, releases, draft);
  const crmEvents = makeCrmEvents(context, crms, releases, arrivals);
  const capture = makeCapture(context, draft);
  const plan = makePlan(context, draft);
  const sources = makeSources(context, plan);
  const channels = makeChannels(context, crms, plan);
  const shortLinkBook = makeShortLinkBook(context);
  const campaigns = makeCampaigns(context, crms, releases, channels, plan);
  const linkPlanOf = makeLinkPlans(context, releases);
  const making = makeLinkBuilder(context, releases, linkPlanOf, draft);
  const shortLinks = makeShortLinks(context, linkPlanOf, shortLinkBook);
  const pageChecks = makePageChecks(context, draft);
  const links = makeLinks(context, linkPlanOf);
  const worlds = makeKnownWorld(context, accounts, crms, openers, shortLinkBook, capture);
  const rehearsals = makeRehearsals(context, draft, worlds, changes);
  const campaignNames = makeCampaignNames(context);
  const strands = makeStrandPages(context, releases, campaignNames);
  const eventsStation = makeEventsStation(context, draft, connections);
  const catalogues = makeCatalogues(context, accounts, draft);
  const trials = makeTrials(context, draft, connections);
  const tryAccounts = makeTryAccounts(context, connections, draft);
  const callLimit = makeCallLimit();
  const takeLeads = makeTakeLeads(context, releases);
  const brakes = makeBrakes(context);
  const heldAsOne = makeHeldAsOne(context, changes);
  const followEnquiries = makeFollowEnquiries(context, releases, brakes, takeLeads);
  const say = makeSayQuality(context, followEnquiries);
  const savedViews = makeSavedViews(context, changes);
  const dayNotes = makeDayNotes(context, changes);
  const sendMail = makeSendMail(makeReachable(config.privateHosts));
  const takeCalls = makeTakeCalls(context);
  const takeNotices = makeTakeNotices(context);
  const writeBack = makeWriteBack(context, crms, releases, campaignNames);
  const writes = makeWritesStation(context, crms, releases, draft, writeBack);
  const act = makeAct(context, crms, campaignNames, writeBack, sendMail, say, callLimit);
  const spoolWriter = makeSpoolWriter(context, spool, releases);
  const tryRoutine = makeTryRoutine(context, releases, crms, campaignNames);
  const jobs = [
    visitorJob(makeDeriveVisitors(context, releases)),
    crmPollJob(makeCrmPoll(context, crms, arrivals)),
    leadPullJob(makePullLeads(context, accounts, releases)),
    callJob(makeFollowCall(context, releases)),
    crmEventJob(crmEvents),
    enquiryJob(followEnquiries),
    handOverJob(makeHandOver(context, crms, releases)),
    crmWriteJob(writeBack),
    orderJob(makeFollowOrders(context, releases, brakes)),
    filedFileJob(makeTakeFiled(context, releases)),
    conversionJob(makeFollowConversions(context, releases, brakes)),
    subscriptionJob(makeFollowSubscriptions(context, releases, brakes)),
    routineTakeJob(takeLeads),
    routineLookJob(takeLeads),
    routineStepJob(makeStepOn(context, releases, act)),
    brakeJob(brakes),
    reportBackJob(makeTell(context, accounts, releases, brakes, callLimit, makeAskKeys(context, crms, releases))),
    eventTellingJob(makeTellEvents(context, accounts, releases, callLimit)),
    platformReportJob(makeReadReport(context, accounts, releases)),
    linkCheckJob(pageChecks),
    pageCheckJob(pageChecks),
    rollUpJob(makeRollUp(context)),
  ];
  return {
    context,
    config,
    /** At the end of the process, once nothing asks for anything any more. */
    closeDatabases: () => Promise.all([...new Set([db, resultsDb])].map((one) => one.close())),
    /** This process's clock, for what pages are drawn by. */
    nowMs,
    releases,
    accounts,
    crmEvents,
    businesses,
    businessMaking: makeBusinessMaking(context, releases, changes),
    people: makePeople(context),
    members: makeMembers(context, changes),
    changes,
    connections,
    tryAccounts,
    ownCrmArrivals: makeOwnCrmArrivals(context, arrivals, connections, draft),
    websiteCheck: makeWebsiteCheck(context),
    crmStation: makeCrmStation(context, accounts, draft, connections),
    openers,
    eventsStation,
    pointing: makePointing(context),
    toldEvents: makeToldEvents(context, connections),
    catalogues,
    beforeRelease: makeBeforeRelease(context, draft, accounts, eventsStation, catalogues),
    eventEffect: makeEventEffect(context, draft),
    outcomesStation: makeOutcomesStation(context, draft, connections),
    outcomeEffect: makeOutcomeEffect(context, draft, connections),
    comparing: makeComparing(context, draft, accounts, connections),
    pretend: makePretend(context, draft, accounts, worlds, tryAccounts),
    tokens: makeTokens(context),
    collect,
    reportBacks: makeReportBacks(context),
    queue: makeQueue(context, changes, heldAsOne),
    spool,
    spoolWriter,
    draft,
    linkPlanOf,
    trials,
    realWalk: makeRealWalk(context, trials, crms, worlds),
    campaignLinks: makeCampaignLinks(context, crms),
    sources,
    rehearsals,
    find: makeFind(context, releases),
    releasing: makeReleasing(context, releases, draft, changes, rehearsals),
    capture,
    elsewhere: makeElsewhereStation(context, businesses, carried, capture),
    swaps: makeSwapsStation(context, capture),
    keptTraffic: makeKeptTraffic(context),
    foundArrivals: makeFoundArrivals(context),
    captureEffect: makeCaptureEffect(context, draft),
    carried,
    countLanding: makeCountLanding(spool),
    countRefusedBody: makeCountRefusedBody(context),
    stoppedWork: makeStoppedWork(context),
    takeStopped: makeTakeStopped(context, releases),
    noCustomer: makeNoCustomer(context, releases, draft, capture),
    files,
    plan,
    planShare: makePlanShare(context, releases, plan),
    channels,
    campaigns,
    making,
    links,
    shortLinks,
    shortLinkBook,
    pageChecks,
    leads: makeLeadList(context, releases),
    takeCalls,
    takeNotices,
    heldAsOne,
    segments: makeSegmentsStation(context, releases, changes),
    routines: makeRoutinesStation(context, releases, changes, takeLeads, tryRoutine),
    runs: makeRuns(context),
    mailTemplates: makeMailTemplates(context, releases, changes, campaignNames, sendMail),
    mailSetUp: makeMailStation(context, changes, sendMail),
    takeReply: makeTakeReply(context),
    stopPage: makeStopPage(context),
    notices: makeNotices(context),
    senders: makeSenders(context, changes),
    calls: makeCallsStation(context, releases, draft, changes, takeCalls),
    personExport: makePersonExport(context),
    erase: makeErase(context, changes, spool, spoolWriter),
    figures: makeFiguresStation(context, releases, savedViews, dayNotes),
    cost: makeCostStation(context, releases),
    costRules: makeCostRules(context, releases, changes),
    months: makeMonthsStation(context, releases, changes),
    ripeness: makeRipenessStation(context, releases),
    ripeDays: makeRipeDays(context, releases),
    threeCounts: makeThreeCountsStation(context, releases),
    visits: makeVisitsStation(context, releases),
    funnel: makeFunnelStation(context, releases, savedViews),
    savedViews,
    dayNotes,
    behindFigures: makeBehindStation(context, releases),
    justIn: makeJustIn(context, releases, connections),
    answers: makeAnswersStation(context, releases, changes, say),
    filed: makeFiledStation(context, releases, connections, changes),
    imports: makeImportsStation(context, releases, crms, changes, makeTakeImport(context, releases)),
    leadForms: makeLeadFormsStation(context, accounts, releases, crms, changes),
    records: makeRecordsStation(context, releases, changes),
    writes,
    repair: makeRepairStation(context, releases, writeBack),
    notLive: makeNotLive(draft, writes),
    strands,
    strip: makeStrip(strands, plan, capture, eventsStation, heldAsOne),
    traces: makeTraces(context, releases, crms, campaignNames, writeBack),
    setUpBusiness: makeSetUpBusiness(context, releases, { campaigns, making, links, shortLinks }),
    runner: makeRunner(context, jobs),
  };
}
