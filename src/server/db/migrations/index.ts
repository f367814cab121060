import { accounts } from './0001-accounts';
import { traffic } from './0002-traffic';
import { following } from './0003-following';
import { quarantine } from './0004-quarantine';
import { polls } from './0005-polls';
import { marks } from './0006-marks';
import { tokens } from './0007-tokens';
import { plan } from './0008-plan';
import { links } from './0009-links';
import { capture } from './0010-capture';
import { visitors } from './0011-visitors';
import { campaignIds } from './0012-campaign-ids';
import { quarantineKinds } from './0013-quarantine-kinds';
import { stoppedPages } from './0014-stopped-pages';
import { releaseHistory } from './0015-release-history';
import { workLanes } from './0016-work-lanes';
import { rollUps } from './0017-roll-ups';
import { hostsOfHits } from './0018-hosts-of-hits';
import { telephones } from './0019-telephones';
import { shortLinkHosts } from './0020-short-link-hosts';
import { linkChecks } from './0021-link-checks';
import { trials } from './0022-trials';
import { waysIn } from './0023-ways-in';
import { outcomes } from './0024-outcomes';
import { orders } from './0025-orders';
import { connections } from './0026-connections';
import { events } from './0027-events';
import { eventTellings } from './0028-event-tellings';
import { trialRules } from './0031-trial-rules';
import { pointings } from './0030-pointings';
import { rehearsals } from './0032-rehearsals';
import { orderNumbers } from './0033-order-numbers';
import { people } from './0034-people';
import { crmWrites } from './0035-crm-writes';
import { longNumbers } from './0036-long-numbers';
import { platformLeads } from './0037-platform-leads';
import { quality } from './0038-quality';
import { calls } from './0039-calls';
import { segments } from './0040-segments';
import { routines } from './0041-routines';
import { erasures } from './0042-erasures';
import { touchEnds } from './0043-touch-ends';
import { queue } from './0044-queue';
import { corrections } from './0045-corrections';
import { notices } from './0046-notices';
import { brakes } from './0047-brakes';
import { subscriptions } from './0048-subscriptions';
import { filed } from './0051-filed';
import { corrected } from './0052-corrected';
import { results } from './0054-results';
import { justIn } from './0055-just-in';
import { costs } from './0056-costs';
import { closedMonths } from './0057-closed-months';
import { leadDays } from './0058-lead-days';
import { hitsByTime } from './0059-hits-by-time';
import { dealsByStage } from './0060-deals-by-stage';
import { reportedNames } from './0053-reported-names';
import { conversions } from './0050-conversions';
import { sameOrders } from './0049-same-orders';
import { pageTellings } from './0029-page-tellings';

/** One repeatable statement. Migrations are only ever added, never changed. */
export interface Migration {
  name: string;
  sql: string;
}

export const migrations: Migration[] = [
  ...accounts,
  ...traffic,
  ...following,
  ...quarantine,
  ...polls,
  ...marks,
  ...tokens,
  ...plan,
  ...links,
  ...capture,
  ...visitors,
  ...campaignIds,
  ...quarantineKinds,
  ...stoppedPages,
  ...releaseHistory,
  ...workLanes,
  ...rollUps,
  ...hostsOfHits,
  ...telephones,
  ...shortLinkHosts,
  ...linkChecks,
  ...trials,
  ...waysIn,
  ...outcomes,
  ...orders,
  ...connections,
  ...events,
  ...eventTellings,
  ...pageTellings,
  ...pointings,
  ...trialRules,
  ...rehearsals,
  ...orderNumbers,
  ...people,
  ...crmWrites,
  ...longNumbers,
  ...platformLeads,
  ...quality,
  ...calls,
  ...segments,
  ...routines,
  ...erasures,
  ...touchEnds,
  ...queue,
  ...corrections,
  ...notices,
  ...brakes,
  ...subscriptions,
  ...sameOrders,
  ...conversions,
  ...filed,
  ...corrected,
  ...reportedNames,
  ...results,
  ...justIn,
  ...costs,
  ...closedMonths,
  ...leadDays,
  ...hitsByTime,
  ...dealsByStage,
];
