import { isUnder } from '../capture/address';
import type { ChannelRule, MediaType, Plan } from './schema';
import { meaningOf, ruleOf } from './check';

/** What stands in the way of links, results and CRM saying the same of a medium. */
export type Disagreement =
  | { code: 'no_channel'; medium: string }
  | { code: 'not_planned'; medium: string }
  | { code: 'no_crm_type'; medium: string }
  | { code: 'crm_type_unknown'; medium: string; crmType: string }
  | { code: 'crm_type_no_medium'; crmType: string }
  | { code: 'crm_type_in_two'; crmType: string; channels: string[] }
  | { code: 'two_media'; channel: string; media: MediaType[] }
  | { code: 'untracked_arrives'; medium: string; arrivals: number };

/** One line of the comparison: what a medium is called in links, in results and in the CRM. */
export interface ComparedRow {
  /** '' for a CRM type that no medium belongs to. */
  medium: string;
  label: string;
  channel: string;
  crmTypes: string[];
  media: MediaType | null;
  tracked: boolean | null;
  /** Tagged arrivals with it in the time looked at. */
  arrivals: number;
  disagreements: Disagreement[];
}

/**
 * Holds links, results and CRM side by side: each medium with its channel and its CRM campaign types, and
 * everything in which the three differ.
 *
 * @param crmTypes the CRM's campaign types, or null where they are not known
 * @param arrivals how often each value of the medium arrived, as it arrived
 */
export function compareChannels(
  plan: Plan,
  crmTypes: string[] | null,
  arrivals: Map<string, number>,
): { rows: ComparedRow[]; disagreements: number } {
  const arrived = new Map<string, number>();
  for (const [value, times] of arrivals) {
    const means = meaningOf(plan, 'utm_medium', value);
    arrived.set(means, (arrived.get(means) ?? 0) + times);
  }
  const planned = ruleOf(plan, 'utm_medium')?.values ?? [];
  const mediums = new Set([...planned.map(({ value }) => value), ...plan.channels.map(({ medium }) => medium)]);
  const channelsOfType = new Map<string, Set<string>>();
  for (const { channel, crmTypes: types } of plan.channels)
    for (const type of types) channelsOfType.set(type, (channelsOfType.get(type) ?? new Set()).add(channel));
  const mediaOfChannel = new Map<string, Set<MediaType>>();
  for (const { channel, media } of plan.channels)
    mediaOfChannel.set(channel, (mediaOfChannel.get(channel) ?? new Set()).add(media));

  const rows = [...mediums].map((medium): ComparedRow => {
    const label = planned.find(({ value }) => value === medium)?.label ?? '';
    const rule = plan.channels.find((known) => known.medium === medium);
    const times = arrived.get(medium) ?? 0;
    const found: Disagreement[] = [];
    if (!planned.some(({ value }) => value === medium)) found.push({ code: 'not_planned', medium });
    if (!rule) found.push({ code: 'no_channel', medium });
    else found.push(...ofRule(rule, crmTypes, times, channelsOfType, mediaOfChannel));
    return {
      medium,
      label,
      channel: rule?.channel ?? '',
      crmTypes: rule?.crmTypes ?? [],
      arrivals: times,
      media: rule?.media ?? null,
      tracked: rule?.tracked ?? null,
      disagreements: found,
    };
  });
  for (const crmType of crmTypes ?? [])
    if (!channelsOfType.has(crmType))
      rows.push({
        medium: '',
        label: '',
        channel: '',
        crmTypes: [crmType],
        media: null,
        tracked: null,
        arrivals: 0,
        disagreements: [{ code: 'crm_type_no_medium', crmType }],
      });
  return { rows, disagreements: rows.reduce((sum, row) => sum + row.disagreements.length, 0) };
}

/** The medium that a campaign type of the CRM belongs to; '' where none does. */
export const mediumOf = ({ channels }: Pick<Plan, 'channels'>, crmType: string): string =>
  channels.find(({ crmTypes }) => crmTypes.includes(crmType))?.medium ?? '';

function ofRule(
  { medium, channel, crmTypes: types, tracked }: ChannelRule,
  known: string[] | null,
  arrivals: number,
  channelsOfType: Map<string, Set<string>>,
  mediaOfChannel: Map<string, Set<MediaType>>,
): Disagreement[] {
  const found: Disagreement[] = [];
  if (known && types.length === 0) found.push({ code: 'no_crm_type', medium });
  for (const crmType of types) {
    const channels = [...channelsOfType.get(crmType)!];
    if (known && !known.includes(crmType)) found.push({ code: 'crm_type_unknown', medium, crmType });
    if (channels.length > 1) found.push({ code: 'crm_type_in_two', crmType, channels });
  }
  const media = [...mediaOfChannel.get(channel)!];
  if (media.length > 1) found.push({ code: 'two_media', channel, media });
  if (!tracked && arrivals > 0) found.push({ code: 'untracked_arrives', medium, arrivals });
  return found;
}

/** The channel that an untagged arrival belongs to by the host of its referrer; the longest host that fits; null without one. */
export function channelOfReferrer(plan: Pick<Plan, 'referrers'>, host: string): string | null {
  const fitting = plan.referrers.filter((rule) => isUnder(host, rule.host));
  return fitting.sort((a, b) => b.host.length - a.host.length)[0]?.channel ?? null;
}
