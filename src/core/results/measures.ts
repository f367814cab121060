/*
 * What can be counted. Counts that are shared among touches are kept in thousandths, amounts in minor units of the
 * business's currency, so that both add up exactly.
 */

export const thousandths = 1000;
export const measures = [
  ...(['visits', 'visitors', 'leads', 'qualified', 'won', 'revenue', 'profit'] as const),
  ...(['new_buyers', 'returning_buyers', 'subscribers', 'lifetime', 'cost', 'clicks'] as const),
];
/**
 * `landed`: visits by campaigns whose clicks are reported; it is only counted for the measured share. `profit_30`: what browsers
 * brought within 30 days of their first visit; it is only counted for each of them.
 */
type UsualMeasure = (typeof measures)[number] | 'landed' | 'profit_30';
/** A usual measure, or an outcome by its code: how often it was reached. */
export type Measure = UsualMeasure | `outcome.${string}`;

/** A measure of what was counted, made of two others of the same row. */
export const ratios = [
  ...(['leads_per_visit', 'qualified_per_lead', 'profit_per_visitor', 'profit_30_per_visitor'] as const),
  'lifetime_per_subscriber' as const,
  ...(['cost_per_lead', 'cost_per_qualified', 'return_on_cost'] as const),
];
export type Ratio = (typeof ratios)[number];
export const ratioOf: Record<Ratio, { of: Measure; by: Measure }> = {
  leads_per_visit: { of: 'leads', by: 'visits' },
  qualified_per_lead: { of: 'qualified', by: 'leads' },
  profit_per_visitor: { of: 'profit', by: 'visitors' },
  profit_30_per_visitor: { of: 'profit_30', by: 'visitors' },
  lifetime_per_subscriber: { of: 'lifetime', by: 'subscribers' },
  cost_per_lead: { of: 'cost', by: 'leads' },
  cost_per_qualified: { of: 'cost', by: 'qualified' },
  return_on_cost: { of: 'profit', by: 'cost' },
};

export type Counted = Measure | Ratio;
export const isRatio = (one: Counted): one is Ratio => (ratios as readonly string[]).includes(one);

/** How a figure is written: whole, shared (thousandths), as money, as a share, or as money for each. */
export type FigureKind = 'whole' | 'shared' | 'money' | 'share' | 'money each';
export function kindOf(one: Counted): FigureKind {
  if (wholes.includes(one)) return 'whole';
  if (amounts.includes(one)) return 'money';
  if (!isRatio(one)) return 'shared';
  return amounts.includes(ratioOf[one].of) && !amounts.includes(ratioOf[one].by) ? 'money each' : 'share';
}
const wholes: readonly Counted[] = ['visits', 'visitors', 'clicks', 'landed'];
const amounts: readonly Counted[] = ['revenue', 'profit', 'profit_30', 'lifetime', 'cost'];

/** Whether it is written as an amount. */
export const isMoney = (one: Counted): boolean => kindOf(one) === 'money' || kindOf(one) === 'money each';

/** Whether it says something of amounts, which not everybody sees. */
export const saysAmounts = (one: Counted): boolean =>
  isMoney(one) || (isRatio(one) && amounts.includes(ratioOf[one].of));

/** Whether it is a ratio of cost to a result, beside which the measured share stands. */
export const isOfCost = (one: Counted): boolean =>
  isRatio(one) && (ratioOf[one].of === 'cost' || ratioOf[one].by === 'cost');

const ratioWords: Record<Ratio, string> = {
  leads_per_visit: 'leads per visit',
  qualified_per_lead: 'qualified of leads',
  profit_per_visitor: 'profit per visitor',
  profit_30_per_visitor: 'profit per visitor in 30 days',
  lifetime_per_subscriber: 'life-time profit per subscription',
  cost_per_lead: 'cost per lead',
  cost_per_qualified: 'cost per qualified lead',
  return_on_cost: 'return on cost',
};
const measureNames: Partial<Record<Measure, string>> = {
  new_buyers: 'new buyers',
  returning_buyers: 'returning buyers',
  subscribers: 'subscriptions begun',
  lifetime: 'life-time profit',
  profit_30: 'profit in 30 days',
};
/** What a measure is called: "qualified", or the code of an outcome. */
export const measureWords = (one: Counted): string =>
  isRatio(one) ? ratioWords[one] : (measureNames[one] ?? one.replace(/^outcome\./, ''));

const nouns: Record<UsualMeasure | Ratio, readonly [one: string, many: string]> = {
  visits: ['visit', 'visits'],
  visitors: ['visitor', 'visitors'],
  leads: ['lead', 'leads'],
  qualified: ['qualified lead', 'qualified leads'],
  won: ['deal or order won', 'deals and orders won'],
  revenue: ['of revenue', 'of revenue'],
  profit: ['of profit', 'of profit'],
  new_buyers: ['won from a new buyer', 'won from new buyers'],
  returning_buyers: ['won from a returning buyer', 'won from returning buyers'],
  subscribers: ['subscription begun', 'subscriptions begun'],
  lifetime: ['of life-time profit', 'of life-time profit'],
  profit_30: ['of profit in 30 days', 'of profit in 30 days'],
  cost: ['of cost', 'of cost'],
  clicks: ['click that platforms report', 'clicks that platforms report'],
  landed: ['visit by a reported click', 'visits by reported clicks'],
  leads_per_visit: ['leads per visit', 'leads per visit'],
  qualified_per_lead: ['of leads qualified', 'of leads qualified'],
  profit_per_visitor: ['of profit per visitor', 'of profit per visitor'],
  profit_30_per_visitor: ['of profit per visitor in 30 days', 'of profit per visitor in 30 days'],
  lifetime_per_subscriber: ['of life-time profit per subscription', 'of life-time profit per subscription'],
  cost_per_lead: ['of cost per lead', 'of cost per lead'],
  cost_per_qualified: ['of cost per qualified lead', 'of cost per qualified lead'],
  return_on_cost: ['of cost came back as profit', 'of cost came back as profit'],
};
/** The noun after a figure: "31 qualified leads", "£1,204 of profit". */
export function nounOf(one: Counted, figure: number): string {
  if (one.startsWith('outcome.')) return measureWords(one);
  const [single, many] = nouns[one as UsualMeasure];
  return figure === (kindOf(one) === 'shared' ? thousandths : 1) ? single : many;
}

/** The measures that have to be known to say some. */
export const neededFor = (counted: readonly Counted[]): Measure[] => [
  ...new Set([
    ...counted.flatMap((one) => (isRatio(one) ? [ratioOf[one].of, ratioOf[one].by] : [one])),
    ...(counted.some(isOfCost) ? (['landed', 'clicks'] as const) : []),
  ]),
];

/** Measures that a segment, which is one of enquiries, says nothing of. */
const ofNoSegment: readonly Measure[] = ['visits', 'visitors', 'subscribers', 'lifetime', 'profit_30'];
/** Whether something can be counted of a segment alone. */
export const isOfSegment = (one: Counted): boolean => !neededFor([one]).some((needed) => ofNoSegment.includes(needed));

/** Of the clicks that platforms report, how many landed (glossary: measured share); null where none are reported. */
export function measuredShare(valueOf: (measure: Measure) => number): number | null {
  const clicks = valueOf('clicks');
  return clicks === 0 ? null : valueOf('landed') / clicks;
}

/**
 * The figure of a measure in a row of what is needed for it: thousandths, minor units, a whole number; of a ratio a number,
 * null where there is nothing to divide by, or no cost is known.
 */
export function figureOf(one: Counted, valueOf: (measure: Measure) => number): number | null {
  if (!isRatio(one)) return valueOf(one);
  const { of, by } = ratioOf[one];
  const below = valueOf(by) / unitOf(by);
  // What nothing is known to have cost did not come for nothing.
  if (of === 'cost' && valueOf(of) === 0) return null;
  return below === 0 ? null : valueOf(of) / unitOf(of) / below;
}

/** In which parts a measure is kept: thousandths where it is shared, else whole ones. */
const unitOf = (one: Measure): number => (kindOf(one) === 'shared' ? thousandths : 1);
