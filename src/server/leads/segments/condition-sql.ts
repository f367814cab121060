import { TZDate } from '@date-fns/tz';
import { AvrixError } from '../../../core/errors';
import {
  segmentsIn,
  type Condition,
  type SegmentMeans,
  type TouchPartName,
  type TouchTest,
} from '../../../core/leads/segments/condition';
import type { Stages } from '../../../core/outcomes';

/** What conditions are compiled with. */
export interface Compiling {
  businessId: string;
  timeZone: string;
  /** ms. */
  now: number;
  stages: Stages;
  /** What a segment means; null where there is none. */
  meansOf: (segment: string) => SegmentMeans | null;
}
/** A condition over `enquiries e` as SQL with its values. */
export type Compiled = readonly [sql: string, values: unknown[]];

const day = 86_400_000;
/** Segments within segments, at most. */
const deepest = 6;

const columns: Record<TouchPartName, string> = {
  source: 't.source',
  medium: 't.medium',
  campaign: 't.campaign',
  content: 't.content',
  term: 't.term',
  referrer: "SUBSTRING_INDEX(t.referrer, '/', 1)",
  landing: "SUBSTRING_INDEX(t.landing, '?', 1)",
};

/**
 * A segment as SQL over `enquiries e`. What is not known fails every condition but its opposite.
 * @throws AVX_SEGMENT_CIRCLE where segments mean each other
 */
export function compileSegment(given: Compiling, means: SegmentMeans, path: readonly string[] = []): Compiled {
  const each = means.conditions.map((one) => compileCondition(given, one, path));
  const between = means.match === 'all' ? ' AND ' : ' OR ';
  return [`(${each.map(([sql]) => sql).join(between)})`, each.flatMap(([, values]) => values)];
}

function compileCondition(given: Compiling, condition: Condition, path: readonly string[]): Compiled {
  const { businessId, stages } = given;
  const { about, values } = condition;
  switch (about) {
    case 'touch':
      return touchSql(given, condition);
    case 'form':
      return ['e.form IN (?)', [values]];
    case 'not_form':
      return ['e.form NOT IN (?)', [values]];
    case 'way':
      return ['e.way_in = ?', [condition.way]];
    case 'stage':
      return ['e.stage IN (?)', [values]];
    case 'reached':
      return reachedSql(stages, values);
    case 'not_reached':
      return not(reachedSql(stages, values));
    case 'quality':
      return ['e.quality = ?', [condition.quality]];
    case 'not_quality':
      return ['e.quality <> ?', [condition.quality]];
    case 'field':
      return fieldSql(condition);
    case 'enquired':
      return datesSql('e.sent_at', given, condition);
    case 'answered':
      return datesSql('e.answered_at', given, condition);
    case 'outcome':
      return outcomeSql(businessId, values);
    case 'no_outcome':
      return not(outcomeSql(businessId, values));
    case 'segment':
      return otherSql(given, condition.segment, path);
    case 'not_segment':
      return not(otherSql(given, condition.segment, path));
  }
}

const not = ([sql, values]: Compiled): Compiled => [`NOT COALESCE(${sql}, FALSE)`, values];

/** A text held against values, of which any may be met. */
function testSql(column: string, test: TouchTest, values: string[]): Compiled {
  const like = (text: string) => text.replace(/[\\%_]/g, '\\$&');
  const anyLike = (patterns: string[]): Compiled => [
    `(${patterns.map(() => `${column} LIKE ?`).join(' OR ')})`,
    patterns,
  ];
  switch (test) {
    case 'is':
    case 'is_not':
      return [`${column} IN (?)`, [values]];
    case 'begins':
      return anyLike(values.map((text) => `${like(text)}%`));
    case 'contains':
      return anyLike(values.map((text) => `%${like(text)}%`));
    case 'empty':
      return [`COALESCE(${column}, '') = ''`, []];
    case 'not_empty':
      return [`COALESCE(${column}, '') <> ''`, []];
  }
}

/**
 * By which touch: of whoever enquired, in that browser, or of the one whose enquiry it inherited. The visitors are found by
 * themselves, which is twice as fast as for each enquiry.
 */
function touchSql({ businessId }: Compiling, { touch, part, test, values }: Condition): Compiled {
  const [held, heldValues] = testSql(columns[part], test, values);
  const byId = `EXISTS (SELECT 1 FROM touches t WHERE t.business_id = e.business_id AND t.id = e.touch_id AND ${held})`;
  const which = touch === 'any' ? '' : touch === 'first' ? 'AND t.is_first' : 'AND t.is_last';
  const found: Compiled =
    touch === 'enquiry'
      ? [byId, heldValues]
      : [
          // One that inherited its touch has no visitor of its own.
          `(e.visitor_id IN (SELECT t.visitor_id FROM touches t WHERE t.business_id = ? AND ${held} ${which})
            OR (e.visitor_id IS NULL AND ${byId}))`,
          [businessId, ...heldValues, ...heldValues],
        ];
  // It holds where nothing is known too.
  return test === 'is_not' ? not(found) : found;
}

/** Those at one of the stages or a later one, and those that were there before they ended. */
function reachedSql({ inOrder, ended }: Stages, values: string[]): Compiled {
  const from = Math.min(...values.map((stage) => inOrder.indexOf(stage)).filter((at) => at >= 0));
  const reached = [...new Set([...values, ...(Number.isFinite(from) ? inOrder.slice(from) : [])])];
  const at: Compiled = ['e.stage IN (?)', [reached]];
  if (ended.length === 0) return at;
  return [
    `(${at[0]} OR (e.stage IN (?) AND EXISTS (SELECT 1 FROM deals d WHERE d.business_id = e.business_id
        AND d.enquiry_id = e.id AND JSON_OVERLAPS(JSON_EXTRACT(d.record, '$.stageChanges[*].stage'), ?))))`,
    [...at[1], ended, JSON.stringify(reached)],
  ];
}

function fieldSql({ field, test, values }: Condition): Compiled {
  const path = `$.fields."${field.replace(/["\\]/g, '\\$&')}"`;
  const [held, heldValues] = testSql('JSON_VALUE(d.record, ?)', test, values);
  const times = held.split('JSON_VALUE').length - 1;
  // The path stands before each value that the field is held against.
  const paths = heldValues.length === 0 ? Array<string>(times).fill(path) : heldValues.flatMap((one) => [path, one]);
  const found: Compiled = [
    `EXISTS (SELECT 1 FROM deals d WHERE d.business_id = e.business_id AND d.enquiry_id = e.id AND ${held})`,
    paths,
  ];
  // It holds where nothing is known too.
  return test === 'is_not' ? not(found) : found;
}

const outcomeSql = (businessId: string, codes: string[]): Compiled => [
  'e.id IN (SELECT o.subject_id FROM outcomes o WHERE o.business_id = ? AND o.code IN (?))',
  [businessId, codes],
];

/** By days of the business; the last so many days end now. */
function datesSql(column: string, { timeZone, now }: Compiling, { when, days, from, to }: Condition): Compiled {
  const startOf = (text: string, later = 0) => {
    const [year, month, date] = text.split('-').map(Number) as [number, number, number];
    return new Date(new TZDate(year, month - 1, date + later, timeZone).getTime());
  };
  switch (when) {
    case 'last':
      return [`${column} >= ?`, [new Date(now - days * day)]];
    case 'before':
      return [`${column} < ?`, [new Date(now - days * day)]];
    case 'between':
      return [`${column} >= ? AND ${column} < ?`, [startOf(from), startOf(to, 1)]];
  }
}

function otherSql(given: Compiling, segment: string, path: readonly string[]): Compiled {
  if (path.includes(segment) || path.length >= deepest) throw new AvrixError('AVX_SEGMENT_CIRCLE');
  const means = given.meansOf(segment);
  // Nobody is in a segment that is not there.
  return means ? compileSegment(given, means, [...path, segment]) : ['FALSE', []];
}

/** The segments that a segment is made of, with all that these are made of. @throws AVX_SEGMENT_CIRCLE */
export function segmentsBehind(
  id: string,
  means: SegmentMeans,
  meansOf: Compiling['meansOf'],
  path: readonly string[] = [],
): Set<string> {
  if (path.length >= deepest) throw new AvrixError('AVX_SEGMENT_CIRCLE');
  const found = new Set<string>();
  for (const other of segmentsIn(means)) {
    if (other === id || path.includes(other)) throw new AvrixError('AVX_SEGMENT_CIRCLE');
    found.add(other);
    const within = meansOf(other);
    if (within) for (const one of segmentsBehind(id, within, meansOf, [...path, other])) found.add(one);
  }
  return found;
}
