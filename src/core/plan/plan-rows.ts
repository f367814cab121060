import { ruleSchemas } from '../releases/draft-schema';
import { readRule, ruleKind, type RuleChange, type RuleKindName } from '../rules';
import { sameRule } from '../rules/same';
import type { ReleaseContent } from '../releases/schema';

/** A line of the plan as a table: which rule, which of its fields, its value, and for listed values what people read. */
export type PlanRow = [rule: string, name: string, field: string, value: string, label: string];
export const planColumns = ['rule', 'name', 'field', 'value', 'label'];

const kinds: RuleKindName[] = [
  'tag',
  'naming',
  'channel',
  'source',
  'referrer',
  'alias',
  'outcome_codes',
  'making_steps',
];

type Plain = Record<string, unknown>;

/** A value's fields as lines: listed values keep their label, lists of parts take the part's key into the field. */
function linesOf(value: Plain, prefix = ''): [field: string, value: string, label: string][] {
  return Object.entries(value).flatMap(([key, one]): [string, string, string][] => {
    const field = prefix + key;
    if (!Array.isArray(one)) return [[field, String(one), '']];
    return one.flatMap((item: unknown): [string, string, string][] => {
      if (typeof item !== 'object' || item === null) return [[field, String(item), '']];
      const { value: listed, code, label, key: part } = item as Record<string, string>;
      if (part !== undefined) return linesOf(item as Plain, `${field}.${part}.`);
      return [[field, listed ?? code ?? '', label ?? '']];
    });
  });
}

/** The whole plan as rows of a table, which read back give the same plan. */
export function writePlanRows(content: ReleaseContent): PlanRow[] {
  return kinds.flatMap((kind) =>
    ruleKind(kind)
      .at.read(content)
      .flatMap(([id, value]) =>
        linesOf(value as Plain).map(([field, text, label]): PlanRow => [kind, id, field, text, label]),
      ),
  );
}

const lists = new Set(['values', 'crmTypes', 'mediums', 'fixed', 'steps', 'beginnings', 'parts']);

/** Puts one line's value where its field says, by the types that the field has elsewhere. */
function put(target: Plain, field: string, value: string, label: string): void {
  const [key = '', ...rest] = field.split('.');
  if (rest.length > 0) {
    const parts = (target[key] ??= []) as Plain[];
    const [part = '', ...deeper] = rest;
    let item = parts.find((one) => one.key === part);
    if (!item) parts.push((item = { key: part, values: [] }));
    put(item, deeper.join('.'), value, label);
  } else if (key === 'values') ((target[key] ??= []) as Plain[]).push({ value, label });
  else if (key === 'beginnings') ((target[key] ??= []) as Plain[]).push({ code: value, label });
  else if (lists.has(key)) ((target[key] ??= []) as string[]).push(value);
  else target[key] = value === 'true' ? true : value === 'false' ? false : value;
}

/** Numbers stand in tables as texts. */
const numbers = new Set(['longest', 'digits']);

function typed(value: Plain): Plain {
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [
      key,
      numbers.has(key) && typeof one === 'string'
        ? Number(one)
        : key === 'parts' && Array.isArray(one)
          ? one.map((part) => typed(part as Plain))
          : one,
    ]),
  );
}

const empty: Record<string, Plain> = {
  tag: { values: [], pattern: '', example: '', note: '' },
  naming: { parts: [] },
  channel: { crmTypes: [] },
  source: { mediums: [], fixed: [] },
  outcome_codes: { beginnings: [] },
  making_steps: { steps: [] },
};

export interface PlanDifference {
  changes: RuleChange[];
  problems: { row: string; was: string; fix: string }[];
}

/**
 * What a table of a plan would change: rules that are new or otherwise, and those that are not in it. Nothing
 * is changed yet. A rule that cannot be read is named and stays as it is.
 */
export function comparePlanRows(content: ReleaseContent, rows: { row: number; cells: Plain }[]): PlanDifference {
  const problems: PlanDifference['problems'] = [];
  const read = new Map<string, { kind: RuleKindName; id: string; value: Plain; row: number }>();
  for (const { row, cells } of rows) {
    const text = (name: string) => (cells[name] as string | undefined) ?? '';
    const kind = text('rule');
    if (!kinds.some((known) => known === kind)) {
      problems.push({ row: `row ${row}`, was: `“${kind}” is no kind of rule`, fix: `Write ${kinds.join(', ')}.` });
      continue;
    }
    const key = `${kind} ${text('name')}`;
    const rule = read.get(key) ?? {
      kind: kind as RuleKindName,
      id: text('name'),
      row,
      value: structuredClone(empty[kind] ?? {}),
    };
    read.set(key, rule);
    put(rule.value, text('field'), text('value'), text('label'));
  }
  const changes: RuleChange[] = [];
  const named = new Set<string>();
  for (const { kind, id, value, row } of read.values()) {
    named.add(`${kind} ${id}`);
    const parsed = ruleSchemas[kind].safeParse(typed(value));
    if (!parsed.success) {
      for (const issue of parsed.error.issues.slice(0, 3))
        problems.push({
          row: `row ${row}, ${kind} ${id}`.trim(),
          was: `${issue.path.join('.') || 'it'} ${issue.message}`,
          fix: 'Fix it in the file; the rest can be taken.',
        });
      continue;
    }
    if (!sameRule(parsed.data, readRule(content, { kind, id }))) changes.push({ kind, id, value: parsed.data });
  }
  if (read.size > 0)
    for (const kind of kinds)
      for (const [id] of ruleKind(kind).at.read(content))
        if (id !== '' && !named.has(`${kind} ${id}`)) changes.push({ kind, id, value: null });
  return { changes, problems };
}

/** The same plan as JSON: each kind of rule by its own name. */
export const writePlanJson = (content: ReleaseContent): Record<string, Record<string, unknown>> =>
  Object.fromEntries(kinds.map((kind) => [kind, Object.fromEntries(ruleKind(kind).at.read(content))]));

/** What a plan in JSON would change. */
export function comparePlanJson(content: ReleaseContent, given: unknown): PlanDifference {
  const difference: PlanDifference = { changes: [], problems: [] };
  const plan = (typeof given === 'object' && given !== null ? given : {}) as Record<string, Record<string, unknown>>;
  for (const kind of kinds) {
    const rules = plan[kind];
    if (typeof rules !== 'object' || rules === null) continue;
    for (const [id, value] of Object.entries(rules)) {
      const parsed = ruleSchemas[kind].safeParse(value);
      if (!parsed.success) {
        const [issue] = parsed.error.issues;
        difference.problems.push({
          row: `${kind} ${id}`.trim(),
          was: `${issue!.path.join('.') || 'it'} ${issue!.message}`,
          fix: 'Fix it in the file; the rest can be taken.',
        });
      } else if (!sameRule(parsed.data, readRule(content, { kind, id })))
        difference.changes.push({ kind, id, value: parsed.data });
    }
    for (const [id] of ruleKind(kind).at.read(content))
      if (id !== '' && !Object.hasOwn(rules, id)) difference.changes.push({ kind, id, value: null });
  }
  return difference;
}
