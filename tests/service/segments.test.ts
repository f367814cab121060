import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  freshCondition,
  type Condition,
  type SegmentMeans,
  type TouchTest,
} from '../../src/core/leads/segments/condition';
import { segmentPieces } from '../../src/core/leads/segments/sentence';
import { sayPieces } from '../../src/core/rules/says';
import { setClock } from '../../src/server/clock';
import type { EnquiryRow, TouchRow } from '../../src/server/db';
import type { Membership } from '../../src/server/people/people';
import { idAt, makeEditor, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

/* Segments: every condition gives what a slow, plain reading of the same rows gives. */

const day = 86_400_000;
let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let member: Membership;
/** Another editor of the same business. */
let other: Awaited<ReturnType<typeof makeEditor>>;

const sources = ['quillsearch', 'wrenwick', 'letter', ''];
const stages = ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed'];
const ended = 'Not this time';
const forms = ['test-ride', 'call-back'];

interface Made {
  enquiry: EnquiryRow;
  /** The oldest first. */
  touches: TouchRow[];
  stagesSeen: string[];
  fields: Record<string, string>;
  outcomes: string[];
}
const all: Made[] = [];
/** The same numbers each time. */
let seed = 41;
const draw = (below: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
  return Math.floor((seed / 2_147_483_648) * below);
};
const pick = <T>(from: readonly T[]): T => from[draw(from.length)]!;

beforeAll(async () => {
  setClock(noon);
  place = await makePlace();
  larkmoor = await setUpLarkmoor(place.services, {
    quillsearch: 'http://q',
    oakledger: 'http://o',
    key: (n) => n.padEnd(20, 'x'),
  });
  ({ member } = await makeEditor(place.services, larkmoor.id));
  other = await makeEditor(place.services, larkmoor.id, 'Maud');
  for (let n = 0; n < 240; n++) all.push(makeOne(n));
  const { tables } = place.services.context;
  await tables.touches.bulkCreate(all.flatMap(({ touches }) => touches) as never[]);
  await tables.enquiries.bulkCreate(all.map(({ enquiry }) => enquiry) as never[]);
  await tables.deals.bulkCreate(
    all.flatMap(({ enquiry, stagesSeen, fields }, n) =>
      enquiry.stage === null
        ? []
        : [
            {
              businessId: larkmoor.id,
              id: idAt(noon, 40_000 + n),
              accountId: idAt(noon, 1),
              number: `D-${n}`,
              enquiryId: enquiry.id,
              leadId: idAt(noon, 50_000 + n),
              companyId: null,
              record: { fields, stageChanges: stagesSeen.map((stage, at) => ({ stage, at })) },
              stage: enquiry.stage,
              madeAt: enquiry.sentAt,
              goneAt: null,
              mergedInto: '',
            },
          ],
    ) as never[],
  );
  await tables.outcomes.bulkCreate(
    all.flatMap(({ enquiry, outcomes }, n) =>
      outcomes.map((code) => ({
        businessId: larkmoor.id,
        id: idAt(noon, 60_000 + n),
        code,
        version: 1,
        subjectKind: 'enquiry',
        subjectId: enquiry.id,
        dedupeKey: `enquiry ${n}`,
        happenedAt: enquiry.sentAt,
        countedAt: enquiry.sentAt,
        amountMinor: 0,
        worthMinor: 0,
        currency: 'GBP',
        winRateWon: null,
        winRateOf: null,
        evidence: { kind: 'stage', stage: 'Fleet assessed', skipped: false },
        releaseNumber: 1,
      })),
    ) as never[],
  );
});
afterAll(() => place.end());

function makeOne(n: number): Made {
  const visitor = idAt(noon, 10_000 + n);
  const sentAt = new Date(noon - draw(120) * day - draw(86_400) * 1000);
  const touched = draw(4);
  const touches = Array.from({ length: touched }, (_, i): TouchRow => ({
    businessId: larkmoor.id,
    id: idAt(noon, 20_000 + n * 10 + i),
    visitorId: visitor,
    visitId: visitor,
    hitId: visitor,
    at: new Date(sentAt.getTime() - (10 - i) * day),
    source: pick(sources),
    medium: pick(['paid-search', 'partner', '']),
    campaign: pick(['uk_27', 'uk%27', 'spring', '']),
    content: '',
    term: '',
    utmId: '',
    referrer: pick(['news.example/a', 'blog.example/news.example', '']),
    landing: pick(['larkmoor.example/fleet', 'larkmoor.example/shop']),
    platform: '',
    clickId: '',
    because: 'campaign_values',
    pageBecause: 'campaign_values',
    isFirst: i === 0,
    isLast: i === touched - 1,
    releaseNumber: 1,
  }));
  // Some were made by hand in the CRM and inherited a touch of somebody else's browser.
  const inherits = touches.length > 0 && draw(5) === 0;
  const stage = draw(4) === 0 ? null : draw(3) === 0 ? ended : pick(stages);
  const quality = pick(['unanswered', 'answering', 'disqualified', 'no_enquiry', 'qualified'] as const);
  const stagesSeen = stage === ended ? stages.slice(0, 1 + draw(4)) : [];
  return {
    touches,
    stagesSeen: stage === null ? [] : [...stagesSeen, stage],
    fields: draw(3) === 0 ? {} : { region: pick(['North', 'South "x"', '']) },
    outcomes: quality === 'qualified' ? ['FLT-QUAL'] : [],
    enquiry: {
      businessId: larkmoor.id,
      id: idAt(noon, 30_000 + n),
      leadToken: null,
      leadId: null,
      strandId: null,
      touchId: touches.at(-1)?.id ?? null,
      visitorId: inherits ? null : visitor,
      hitId: null,
      form: pick(forms),
      page: '',
      sentAt,
      visitNumber: null,
      fields: [],
      fills: null,
      marked: '',
      consent: null,
      joinedBy: null,
      dealId: null,
      stage,
      releaseNumber: 1,
      wayIn: pick(['form', 'call', 'lead_form'] as const),
      quality,
      qualityReason: '',
      answeredAt: draw(2) === 0 ? null : new Date(sentAt.getTime() + draw(5) * day),
      answeredBy: '',
      saidQuality: '',
      saidReason: '',
      saidBy: '',
      saidAt: null,
      saidAnsweredAt: null,
      saidAnsweredBy: '',
      erasedAt: null,
    },
  };
}

/** What a test says of a text, plainly. */
const meets = (text: string, test: TouchTest, values: string[]): boolean => {
  if (test === 'empty') return text === '';
  if (test === 'not_empty') return text !== '';
  if (test === 'begins') return values.some((value) => text.startsWith(value));
  return test === 'contains' ? values.some((value) => text.includes(value)) : values.includes(text);
};

/** What a condition says of one enquiry: slow, and written another way. */
function holds(one: Made, condition: Condition, segments: Map<string, SegmentMeans>): boolean {
  const { enquiry, touches } = one;
  const { about, values, test, part } = condition;
  const dated = (at: Date | null): boolean => {
    if (!at) return false;
    const ago = (noon - at.getTime()) / day;
    if (condition.when === 'last') return ago <= condition.days;
    if (condition.when === 'before') return ago > condition.days;
    // Europe/London is on UTC in these months.
    const text = at.toISOString().slice(0, 10);
    return text >= condition.from && text <= condition.to;
  };
  switch (about) {
    case 'touch': {
      const own = touches.at(-1);
      const known = enquiry.visitorId === null || condition.touch === 'enquiry' ? (own ? [own] : []) : touches;
      const looked =
        condition.touch === 'first' ? known.slice(0, 1) : condition.touch === 'last' ? known.slice(-1) : known;
      const textOf = (touch: TouchRow) =>
        part === 'referrer' ? touch.referrer.split('/')[0]! : part === 'landing' ? touch.landing : touch[part];
      const found = looked.some((touch) => meets(textOf(touch), test, values));
      return test === 'is_not' ? !found : found;
    }
    case 'form':
      return values.includes(enquiry.form);
    case 'not_form':
      return !values.includes(enquiry.form);
    case 'way':
      return enquiry.wayIn === condition.way;
    case 'stage':
      return enquiry.stage !== null && values.includes(enquiry.stage);
    case 'reached':
    case 'not_reached': {
      const first = Math.min(...values.map((stage) => stages.indexOf(stage)));
      const was = one.stagesSeen.some((stage) => stages.indexOf(stage) >= first);
      return about === 'reached' ? was : !was;
    }
    case 'quality':
      return enquiry.quality === condition.quality;
    case 'not_quality':
      return enquiry.quality !== condition.quality;
    case 'field': {
      if (enquiry.stage === null) return test === 'is_not';
      const found = meets(one.fields[condition.field] ?? '', test, values);
      return test === 'is_not' ? !found : found;
    }
    case 'enquired':
      return dated(enquiry.sentAt);
    case 'answered':
      return dated(enquiry.answeredAt);
    case 'outcome':
      return one.outcomes.some((code) => values.includes(code));
    case 'no_outcome':
      return !one.outcomes.some((code) => values.includes(code));
    case 'segment':
      return isIn(one, segments.get(condition.segment), segments);
    case 'not_segment':
      return !isIn(one, segments.get(condition.segment), segments);
  }
}
function isIn(one: Made, means: SegmentMeans | undefined, segments: Map<string, SegmentMeans>): boolean {
  if (!means) return false;
  const each = means.conditions.map((condition) => holds(one, condition, segments));
  return means.match === 'all' ? each.every(Boolean) : each.some(Boolean);
}
const countOf = (means: SegmentMeans, segments = new Map<string, SegmentMeans>()) =>
  all.filter(
    (one) =>
      isIn(one, means, segments) &&
      (one.enquiry.quality !== 'no_enquiry' ||
        means.conditions.some(({ about, quality }) => about === 'quality' && quality === 'no_enquiry')),
  ).length;
const effectOf = async (means: SegmentMeans) => (await place.services.segments.effect(member, '', means)).enquiries;
const meaning = (...conditions: Partial<Condition>[]): SegmentMeans => ({
  match: 'all',
  conditions: conditions.map((one) => ({ ...freshCondition(one.about), ...one })),
});

const tests: TouchTest[] = ['is', 'is_not', 'begins', 'contains', 'empty', 'not_empty'];
const someOf = (from: readonly string[]) => fc.uniqueArray(fc.constantFrom(...from), { minLength: 1, maxLength: 2 });
const condition = fc
  .record({
    about: fc.constantFrom(
      ...(['touch', 'form', 'not_form', 'way', 'stage', 'reached', 'not_reached', 'quality', 'not_quality'] as const),
      ...(['field', 'enquired', 'answered', 'outcome', 'no_outcome', 'touch', 'touch'] as const),
    ),
    touch: fc.constantFrom('any', 'first', 'last', 'enquiry'),
    part: fc.constantFrom('source', 'medium', 'campaign', 'referrer', 'landing'),
    test: fc.constantFrom(...tests),
    text: someOf(['quillsearch', 'wren', 'paid', 'uk_', 'uk%', 'news.example', 'larkmoor.example/fleet', 'partner']),
    region: someOf(['North', 'South "x"', 'So']),
    form: someOf(forms),
    stage: someOf(stages),
    way: fc.constantFrom('form', 'call', 'lead_form'),
    quality: fc.constantFrom('unanswered', 'answering', 'no_enquiry', 'qualified'),
    when: fc.constantFrom('last', 'before', 'between'),
    days: fc.integer({ min: 1, max: 120 }),
  })
  .map(({ text, region, form, stage, about, ...rest }): Condition => ({
    ...freshCondition(about),
    ...(rest as Partial<Condition>),
    field: 'region',
    from: '2026-12-10',
    to: '2027-01-20',
    values: about.endsWith('form')
      ? form
      : about.includes('outcome')
        ? ['FLT-QUAL']
        : about === 'field'
          ? region
          : about === 'touch'
            ? text
            : stage,
  }));

describe('a segment', () => {
  it('has just those whom a slow reading of the same rows finds, whatever its conditions are', async () => {
    const given = fc.record({
      match: fc.constantFrom('all', 'any'),
      conditions: fc.array(condition, { minLength: 1, maxLength: 4 }),
    });
    await fc.assert(
      fc.asyncProperty(given, async (means) => {
        expect(await effectOf(means as SegmentMeans), sayPieces(segmentPieces, means as SegmentMeans)).toBe(
          countOf(means as SegmentMeans),
        );
      }),
      { seed: 1604, numRuns: process.env.TEST_LONG ? 1000 : 120 },
    );
  });

  it('of a partner and some days equals an independent count in SQL', async () => {
    const means = meaning(
      { about: 'touch', touch: 'any', part: 'source', test: 'is', values: ['wrenwick'] },
      { about: 'enquired', when: 'between', from: '2027-01-01', to: '2027-01-31' },
    );
    const [row] = await rowsOf<{ n: number }>(
      place.db,
      `SELECT COUNT(DISTINCT e.id) AS n FROM enquiries e
       JOIN touches t ON t.visitor_id = e.visitor_id OR (e.visitor_id IS NULL AND t.id = e.touch_id)
       WHERE t.source = 'wrenwick' AND e.quality <> 'no_enquiry' AND DATE(e.sent_at) BETWEEN '2027-01-01' AND '2027-01-31'`,
    );
    expect(await effectOf(means)).toBe(Number(row!.n));
    expect(Number(row!.n)).toBeGreaterThan(0);
  });
});

describe('segments that are kept', () => {
  const save = (given: { id?: string; name: string; means: SegmentMeans; isShared?: boolean; seen?: string }) =>
    place.services.segments.save(member, 'Maud', { id: '', isShared: true, seen: '', ...given });
  const partner = meaning({ about: 'touch', values: ['wrenwick'] });

  it('are made of others, never of themselves, and narrow the list and the answers', async () => {
    const { id } = await save({ name: 'Partner', means: partner });
    const newOnes = meaning({ about: 'segment', segment: id }, { about: 'quality', quality: 'unanswered' });
    const made = await save({ name: 'New of the partner', means: newOnes });
    const segments = new Map([[id, partner]]);
    expect(await effectOf(newOnes)).toBe(countOf(newOnes, segments));
    const query = { find: '', sort: 'sentAt', descending: 'yes', page: 1, quality: '' } as const;
    const page = await place.services.leads.page(member.business, member.role, { ...query, segment: made.id });
    expect(page.total).toBe(countOf(newOnes, segments));
    expect(page.sentence.title).toContain('“New of the partner”');
    const answers = await place.services.answers.view(member, { weeks: 13, segment: made.id });
    expect(answers.byCampaign.reduce((sum, { enquiries }) => sum + enquiries, 0)).toBeGreaterThan(0);
    const { changedAt } = (await place.services.segments.view(member)).segments.find((one) => one.id === id)!;
    const circle = meaning({ about: 'segment', segment: made.id });
    await expect(save({ id, name: 'Partner', means: circle, seen: changedAt })).rejects.toThrow(
      'cannot be made of itself',
    );
    await expect(place.services.segments.retire(member, id, true)).rejects.toThrow('“New of the partner”');
    await place.services.segments.retire(member, made.id, true);
    const { segments: kept } = await place.services.segments.retire(member, id, true);
    expect(kept.filter(({ isRetired }) => isRetired)).toHaveLength(2);
  });

  it('are not undone by whoever did not see the last change, nor made twice under one name', async () => {
    const { id } = await save({ name: 'Mine', means: partner });
    const seen = (await place.services.segments.view(member)).segments.find((one) => one.id === id)!.changedAt;
    setClock(noon + 60_000);
    await save({ id, name: 'Mine', means: partner, seen });
    await expect(save({ id, name: 'Mine', means: partner, seen })).rejects.toThrow('changed this segment meanwhile');
    await expect(save({ name: 'mine', means: partner })).rejects.toThrow('already');
    setClock(noon);
  });

  it('that are somebody’s own are seen by nobody else', async () => {
    const { id } = await save({ name: 'Own', means: partner, isShared: false });
    const named = async (who: Membership) => (await place.services.segments.view(who)).segments.map((one) => one.id);
    expect(await named(member)).toContain(id);
    expect(await named(other.member)).not.toContain(id);
    const query = { find: '', sort: 'sentAt', descending: 'yes', page: 1, quality: '', segment: id } as const;
    const { business, role } = other.member;
    await expect(place.services.leads.page(business, role, query)).rejects.toThrow();
    // A shared one that is made of it means the same for everybody.
    const made = meaning({ about: 'segment', segment: id });
    const shared = await save({ name: 'Made of my own', means: made });
    const page = await place.services.leads.page(business, role, { ...query, segment: shared.id });
    expect(page.total).toBe(countOf(partner));
    expect(page.total).toBeGreaterThan(0);
    const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
    await expect(
      place.services.segments.save(reader, 'Maud', { id: '', name: 'R', means: partner, isShared: true, seen: '' }),
    ).rejects.toThrow();
  });
});
