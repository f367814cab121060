import { selectRows, whole } from '../db';
import { channelOfReferrer, compareChannels, disagreementWords } from '../../core/plan';
import type { ChannelsView } from '../../core/plan/view';
import { counted, type Sentence } from '../../core/strands';
import type { Context } from '../context';
import { makeLastKnown } from '../last-known';
import type { Membership } from '../people/people';
import type { Crms } from '../crms/crm';
import { observationStartDay, type PlanService } from './plan';
import { quoteValue } from '../../core/quote-value';
import { touchDays } from '../rollups/table';

const mostHosts = 200;

export type Channels = ReturnType<typeof makeChannels>;

/** The channel map, held against the CRM's campaign types and what arrived. */
export function makeChannels({ db }: Context, crms: Crms, plan: PlanService) {
  async function askCrm(businessId: string): Promise<ChannelsView['crm']> {
    const crm = await crms.of(businessId);
    if (!crm) return { name: '', types: null, why: 'No CRM is connected.' };
    const { account, contract, ask } = crm;
    if (!contract.campaigns) return { name: account.name, types: null, why: `${account.name} keeps no campaigns.` };
    try {
      return { name: account.name, types: await ask(contract.campaigns.types), why: '' };
    } catch (error) {
      return { name: account.name, types: null, why: `${account.name} did not say: ${(error as Error).message}` };
    }
  }
  const crm = makeLastKnown(askCrm);

  async function hostsOf(businessId: string): Promise<{ host: string; arrivals: number }[]> {
    return selectRows(
      db,
      { host: touchDays.columns.referrerHost.of('referrer_host'), arrivals: whole().of('SUM(touches)') },
      `FROM touch_days WHERE business_id = ? AND zone = '' AND day >= ? AND untagged = TRUE
       GROUP BY host ORDER BY arrivals DESC LIMIT ${mostHosts}`,
      [businessId, observationStartDay()],
    );
  }

  return {
    crmTypes: async (businessId: string) => (await crm.get(businessId)).types ?? [],

    async view(membership: Membership): Promise<ChannelsView> {
      const businessId = membership.business.id;
      const [state, known, hosts] = await Promise.all([
        plan.stateOf(businessId),
        crm.get(businessId),
        hostsOf(businessId),
      ]);
      const edited = state.draft.plan;
      const arrivals = new Map(
        state.arrived.filter(({ tag }) => tag === 'utm_medium').map(({ value, arrivals: times }) => [value, times]),
      );
      const compared = compareChannels(edited, known.types, arrivals);
      return {
        ...plan.base(membership, channelsSentence(compared), state),
        rows: compared.rows,
        crm: known,
        referrers: hosts.map((one) => ({ ...one, channel: channelOfReferrer(edited, one.host) })),
      };
    },
  };
}

function channelsSentence({ rows, disagreements }: ReturnType<typeof compareChannels>): Sentence {
  if (rows.length === 0)
    return {
      title: 'No medium is planned yet.',
      under: 'List the media you use; each gets a channel for results and its campaign types in the CRM.',
    };
  if (disagreements === 0)
    return {
      title: 'Links, results and CRM mean the same.',
      under: `${counted(rows.length, 'medium has', 'media have')} one channel each, and every campaign type a medium.`,
    };
  const worst = rows.filter((row) => row.disagreements.length > 0).sort((a, b) => b.arrivals - a.arrivals)[0]!;
  return {
    title: `Links, results and CRM differ in ${counted(disagreements, 'place', 'places')}.`,
    under: `${worst.medium ? quoteValue(worst.medium) : worst.crmTypes[0]}: ${disagreementWords(worst.disagreements[0]!)}`,
  };
}
