import { campaignValues, splitAddress, splitReferrer } from '../capture';
import { howChanged } from '../capture/how-changed';
import type { FillReport, Hit, Reading } from '../capture/schema';
import type { CrmRecord, CrmRule } from '../leads/schema';
import { followedValues, type FollowedValue } from '../leads/values';
import type { WayIn } from '../ways-in';
import type { Hop, Strand } from './types';

/** How a value stands at a hop. `how` says in words what changed; `swapped`: as a swap table of ours says. */
export interface TracedValue {
  state: 'first' | 'same' | 'changed' | 'swapped' | 'empty' | 'not_seen' | 'none';
  value: string;
  how: string;
}

export interface TraceRow {
  value: FollowedValue;
  /** At each hop of the way in. */
  cells: Partial<Record<Hop, TracedValue>>;
}

export interface TraceInput {
  way: WayIn;
  strand: Strand;
  /** The hit that brought the strand, null for an enquiry without one. */
  arrival: Hit | null;
  /** The newest hit up to the sending, whose cookie state was in force; of an order that of its arrival. */
  keptHit: Hit | null;
  /** The hit by which a page said the order, null without one. */
  orderHit: Hit | null;
  /** Whether what a platform's own form took was fetched there. */
  isFetched: boolean;
  fills: FillReport[] | null;
  /** The swap table that a fill rule reads through, '' where it reads through none. */
  swapOf: (rule: string) => string;
  record: CrmRecord | null;
  crm: CrmRule | null;
  /** The click ID the platform was told, '' while none was. */
  toldClickId: string;
  confirmed: boolean;
  utmLowerCase: boolean;
}

const readings: Record<FollowedValue, Reading> = {
  click_id: 'click_id',
  source: 'last_source',
  medium: 'last_medium',
  campaign: 'last_campaign',
  content: 'last_content',
  first_referrer: 'first_referrer',
};

/**
 * The values of one strand or enquiry at each hop, compared with the hop before where they were last seen. Only the
 * click ID goes on to the platform; the other values end at the CRM.
 */
export function traceValues(input: TraceInput): TraceRow[] {
  return followedValues
    .map((value) => ({ value, cells: traceOne(value, input) }))
    .filter((row) => Object.values(row.cells).some((cell) => cell.value !== ''));
}

/** Values that came out other than they went in, at which hop, and how: what no summary may call fine. */
export function changedOnTheWay(rows: TraceRow[]): { value: FollowedValue; hop: Hop; how: string }[] {
  return rows.flatMap(({ value, cells }) =>
    (Object.entries(cells) as [Hop, TracedValue][]).flatMap(([hop, { state, how }]) => {
      if (state === 'changed') return [{ value, hop, how }];
      return state === 'empty' ? [{ value, hop, how: 'empty' }] : [];
    }),
  );
}

function traceOne(value: FollowedValue, input: TraceInput): TraceRow['cells'] {
  const landed = landedValue(value, input);
  const sent = sentLine(value, input);
  const seen: Record<Hop, string | null> = {
    clicked: input.strand.clickId && value !== 'first_referrer' ? landed : null,
    landed,
    kept: keptValue(value, input),
    form_sent: sent && sent.value,
    // A caller says a code, not what it stands for.
    called: null,
    sent_there: sentThere(value, input.strand),
    fetched: input.isFetched ? sentThere(value, input.strand) : null,
    imported: input.way.kind === 'import' ? sentThere(value, input.strand) : null,
    ordered: input.orderHit ? keptValue(value, { ...input, keptHit: input.orderHit }) : null,
    // What is posted of a payment names the sign-up, not what brought it.
    paid: null,
    converted: input.orderHit ? keptValue(value, { ...input, keptHit: input.orderHit }) : null,
    in_crm: crmValue(value, input),
    qualified: null,
    told: value === 'click_id' && input.toldClickId ? input.toldClickId : null,
    confirmed: value === 'click_id' && input.confirmed ? input.toldClickId : null,
  };
  const cells: TraceRow['cells'] = {};
  let before: string | null = null;
  for (const hop of input.way.hops) {
    const cell = compare(before, seen[hop]);
    cells[hop] =
      hop === 'form_sent' && sent?.swap && cell.state === 'changed'
        ? { state: 'swapped', value: sent.value, how: `by the swap table ${sent.swap}` }
        : cell;
    if (seen[hop]) before = seen[hop];
  }
  return cells;
}

function compare(before: string | null, now: string | null): TracedValue {
  if (now === null) return { state: 'not_seen', value: '', how: '' };
  if (now === '') return { state: before ? 'empty' : 'none', value: '', how: '' };
  if (before === null) return { state: 'first', value: now, how: '' };
  if (before === now) return { state: 'same', value: now, how: '' };
  return { state: 'changed', value: now, how: howChanged(before, now) };
}

function landedValue(value: FollowedValue, { arrival, strand, utmLowerCase, keptHit }: TraceInput): string | null {
  if (!arrival) return null;
  if (value === 'click_id') return strand.clickId;
  if (value === 'first_referrer') {
    // What came with a later arrival is not the first.
    const { first } = (keptHit ?? arrival).kept;
    if (first) return first.at === strand.firstAt || first.at === arrival.at ? first.referrer : null;
    const from = splitReferrer(arrival.referrer);
    return from ? from.host + from.path : '';
  }
  const address = splitAddress(arrival.address);
  return address ? campaignValues(address, utmLowerCase)[value] || strand[value] : null;
}

/** What the platform says of a lead that its own form took. */
const sentThere = (value: FollowedValue, { clickId, ...strand }: Strand): string | null =>
  value === 'first_referrer' ? null : value === 'click_id' ? clickId : strand[value];

function keptValue(value: FollowedValue, { strand, keptHit }: TraceInput): string | null {
  if (!keptHit) return null;
  const { kept } = keptHit;
  if (value === 'click_id')
    return strand.clickId ? (kept.clicks.findLast((c) => c.platform === strand.platform)?.clickId ?? '') : null;
  if (value === 'first_referrer') return kept.first?.referrer ?? '';
  return kept.last?.[value] ?? '';
}

/** What the CRM's record holds; null without a record, or where no CRM field is meant for this value. */
function crmValue(value: FollowedValue, { record, crm }: TraceInput): string | null {
  const field = crm?.fields[value];
  return record && field ? (record.fields[field] ?? '') : null;
}

/** What the form carried of a value: as it is kept if a field has that, else as a swap table words it. */
function sentLine(value: FollowedValue, { fills, swapOf }: TraceInput): { value: string; swap: string } | null {
  if (!fills) return null;
  const lines = fills.filter((line) => line.reading === readings[value]);
  if (lines.length === 0) return null;
  const carrying = lines.filter((line) => line.state === 'filled' || line.state === 'had_value');
  const line = carrying.find(({ rule }) => swapOf(rule) === '') ?? carrying[0];
  return line ? { value: line.value, swap: swapOf(line.rule) } : { value: '', swap: '' };
}
