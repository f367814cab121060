/*
 * What can be counted. Counts that are shared among touches are kept in thousandths, amounts in minor units of the
 * business's currency, so that both add up exactly.
 */

export const thousandths = 1000;
export const measures = ['visits', 'visitors', 'leads', 'qualified', 'won', 'revenue', 'profit'] as const;
type UsualMeasure = (typeof measures)[number];
/** A usual measure, or an outcome by its code: how often it was reached. */
export type Measure = UsualMeasure | `outcome.${string}`;

/** A measure of what was counted, made of two others of the same row. */
export const ratios = ['leads_per_visit', 'qualified_per_lead', 'profit_per_visitor'] as const;
export type Ratio = (typeof ratios)[number];
export const ratioOf: Record<Ratio, { of: Measure; by: Measure }> = {
  leads_per_visit: { of: 'leads', by: 'visits' },
  qualified_per_lead: { of: 'qualified', by: 'leads' },
  profit_per_visitor: { of: 'profit', by: 'visitors' },
};

export type Counted = Measure | Ratio;
export const isRatio = (one: Counted): one is Ratio => (ratios as readonly string[]).includes(one);

/** How a figure is written: whole, shared (thousandths), as money, as a share, or as money for each. */
export type FigureKind = 'whole' | 'shared' | 'money' | 'share' | 'money each';
export function kindOf(one: Counted): FigureKind {
  if (one === 'visits' || one === 'visitors') return 'whole';
  if (one === 'revenue' || one === 'profit') return 'money';
  if (one === 'profit_per_visitor') return 'money each';
  return isRatio(one) ? 'share' : 'shared';
}

/** Whether it is an amount, which not everybody sees. */
export const isMoney = (one: Counted): boolean => kindOf(one) === 'money' || kindOf(one) === 'money each';

const ratioWords: Record<Ratio, string> = {
  leads_per_visit: 'leads per visit',
  qualified_per_lead: 'qualified of leads',
  profit_per_visitor: 'profit per visitor',
};
/** What a measure is called: "qualified", or the code of an outcome. */
export const measureWords = (one: Counted): string => (isRatio(one) ? ratioWords[one] : one.replace(/^outcome\./, ''));

const nouns: Record<UsualMeasure | Ratio, readonly [one: string, many: string]> = {
  visits: ['visit', 'visits'],
  visitors: ['visitor', 'visitors'],
  leads: ['lead', 'leads'],
  qualified: ['qualified lead', 'qualified leads'],
  won: ['deal or order won', 'deals and orders won'],
  revenue: ['of revenue', 'of revenue'],
  profit: ['of profit', 'of profit'],
  leads_per_visit: ['leads per visit', 'leads per visit'],
  qualified_per_lead: ['of leads qualified', 'of leads qualified'],
  profit_per_visitor: ['of profit per visitor', 'of profit per visitor'],
};
/** The noun after a figure: "31 qualified leads", "£1,204 of profit". */
export function nounOf(one: Counted, figure: number): string {
  if (one.startsWith('outcome.')) return measureWords(one);
  const [single, many] = nouns[one as UsualMeasure];
  return figure === (kindOf(one) === 'shared' ? thousandths : 1) ? single : many;
}

/** The measures that have to be known to say some. */
export const neededFor = (counted: readonly Counted[]): Measure[] => [
  ...new Set(counted.flatMap((one) => (isRatio(one) ? [ratioOf[one].of, ratioOf[one].by] : [one]))),
];

/**
 * The figure of a measure in a row of what is needed for it: thousandths, minor units, a whole number; of a ratio a number,
 * null where there is nothing to divide by.
 */
export function figureOf(one: Counted, valueOf: (measure: Measure) => number): number | null {
  if (!isRatio(one)) return valueOf(one);
  const { of, by } = ratioOf[one];
  const below = valueOf(by) / unitOf(by);
  return below === 0 ? null : valueOf(of) / unitOf(of) / below;
}

/** In which parts a measure is kept: thousandths where it is shared, else whole ones. */
const unitOf = (one: Measure): number => (kindOf(one) === 'shared' ? thousandths : 1);
