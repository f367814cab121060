import type { CrmWriteRule } from '../../core/leads/schema';
import type { DryRunView } from '../../core/leads/writes-view';
import type { Release } from '../../core/releases';
import { called } from './called';
import type { DealPlan, WriteBack } from './write-back';

/** Enquiries that are planned at once. */
const atOnce = 500;
const mostExamples = 8;

/** Plans what rules would write into the records of many enquiries, some at a time. */
export async function planAll(
  { plan }: Pick<WriteBack, 'plan'>,
  businessId: string,
  ids: string[],
  release: Release,
  rules: readonly CrmWriteRule[],
  each: (plans: DealPlan[]) => void | Promise<void>,
): Promise<void> {
  for (let from = 0; from < ids.length; from += atOnce)
    // eslint-disable-next-line no-await-in-loop -- bounded in memory
    await each(await plan(businessId, ids.slice(from, from + atOnce), release, rules));
}

/** What was planned, counted; of each rule the values that their field would cut, and what it would hold of the first. */
export interface DryRun extends DryRunView {
  cutOf: Map<string, { values: number; holds: string }>;
  /** Of each rule a field that the CRM does not have. */
  lacks: Map<string, string>;
}

/** Counts what rules would write into the records of enquiries, and shows some of it. Nothing is written. */
export async function dryRun(
  writeBack: Pick<WriteBack, 'plan'>,
  businessId: string,
  ids: string[],
  release: Release,
  rules: readonly CrmWriteRule[],
  seesPeople: boolean,
): Promise<DryRun> {
  const seen: DryRun = {
    records: 0,
    written: 0,
    values: 0,
    cut: 0,
    examples: [],
    left: [],
    cutOf: new Map(),
    lacks: new Map(),
  };
  const left = new Map<DryRunView['left'][number]['because'], number>();
  await planAll(writeBack, businessId, ids, release, rules, (plans) => {
    for (const { writable, deal, writes, left: kept } of plans) {
      seen.records += 1;
      if (writes.length > 0) seen.written += 1;
      for (const { rule, field, because } of kept) {
        left.set(because, (left.get(because) ?? 0) + 1);
        if (because === 'no field') seen.lacks.set(rule, field);
      }
      for (const { rule, field, was, becomes, cut } of writes) {
        seen.values += 1;
        if (cut !== null) {
          seen.cut += 1;
          const { values, holds } = seen.cutOf.get(rule) ?? { values: 0, holds: cut };
          seen.cutOf.set(rule, { values: values + 1, holds });
        }
        if (seen.examples.length < mostExamples)
          seen.examples.push({
            enquiryId: writable.enquiry.id,
            field,
            was,
            becomes,
            cut,
            words: calledBy(deal.record, seesPeople),
          });
      }
    }
  });
  seen.left = [...left].map(([because, fields]) => ({ because, fields })).sort((a, b) => b.fields - a.fields);
  return seen;
}

/** What a record is called. */
export const calledBy = (
  { company, personName, deal }: { company: string; personName: string; deal: string },
  seesPeople: boolean,
): string => called({ company, name: personName }, seesPeople, `record ${deal}`);
