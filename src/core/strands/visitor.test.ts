import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrive, decideFills, nothingKept, type Hit, type Kept } from '../capture';
import { day, hiddenFields, rules, start } from '../capture/rules.fixture';
import { utmTags } from '../plan';
import { deriveVisitor, type RecordedHit } from './visitor';
import type { ConversionRule } from './visitor-conversions';

const business = '0190aaaa-0000-7000-8000-000000000001';
const visitor = '0190aaaa-0000-7000-8000-0000000000aa';
const idAt = (at: number, n: number) => {
  const hex = at.toString(16).padStart(12, '0');
  return `${hex.slice(0, 8)}-${hex.slice(8)}-7000-8000-${String(n).padStart(12, '0')}`;
};

interface Step {
  wait: number;
  path: string;
  referrer?: string;
  sends?: 'test-ride' | 'call-back';
  blocked?: boolean;
  /** Every cookie but the visitor's has ended before. */
  ended?: boolean;
}

/** Plays a browser through the engine, as the snippet does, and returns the hits it would send. */
function browse(steps: Step[]): RecordedHit[] {
  let kept: Kept = nothingKept();
  let at = start;
  return steps.flatMap(({ wait, path, referrer = '', sends, blocked = false, ended = false }, n) => {
    at += wait;
    if (ended) kept = { ...nothingKept(), visitor: kept.visitor };
    const address = `http://larkmoor.localhost:4310${path}`;
    const arrival = { at, address, referrer, navigation: 'navigate' } as const;
    const arrived = arrive(blocked ? nothingKept() : kept, arrival, rules, { visitor, visit: idAt(at, n) });
    kept = blocked ? nothingKept() : arrived.kept;
    const common = {
      release: 1,
      visitor,
      visit: arrived.kept.visitor!.visitId,
      address,
      referrer,
      kept: { works: !blocked, first: kept.first, last: kept.last, clicks: kept.clicks },
    };
    const hits: Hit[] = [
      { ...common, id: idAt(at, 2 * n), at, kind: 'arrived', navigation: 'navigate', why: arrived.decision.because },
    ];
    if (sends) {
      const hidden = sends === 'test-ride' ? ['click_id', 'source'] : ['click_ref', 'source'];
      const form = { name: sends, page: '/fleet', fields: hiddenFields(hidden) };
      const { report } = decideFills(form, kept, rules);
      hits.push({
        ...common,
        id: idAt(at + 1000, 2 * n + 1),
        at: at + 1000,
        kind: 'form_sent',
        form: sends,
        leadToken: idAt(at + 1000, 900 + n),
        fields: hidden,
        fills: report,
      });
    }
    return hits.map((hit) => ({ hit, at: hit.at, mark: '', browser: 'Blink' }));
  });
}

const derive = (hits: RecordedHit[], now = start + 60 * day, forms = rules.forms, conversions: ConversionRule[] = []) =>
  deriveVisitor(
    business,
    visitor,
    hits,
    () => ({
      ...rules,
      forms,
      tags: [...utmTags],
      paidMedia: [],
      noCustomerHosts: [],
      eventAccounts: { booking_opened: [] },
      conversions,
      units: { total: 'GBP' },
      placeholders: ['(advert)', '(visit.key)'],
    }),
    now,
  );
const click = '/fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=c1&qsid=Q1';
const hopsOf = (derived: ReturnType<typeof derive>) =>
  derived.hops.map((hop) => [hop.hop, hop.state, hop.reason?.code ?? null]);

describe('one click that asks on its third visit', () => {
  const derived = derive(
    browse([
      { wait: 0, path: click, referrer: 'http://quillsearch.localhost/' },
      { wait: 60_000, path: '/shop', referrer: 'http://larkmoor.localhost:4310/fleet' },
      { wait: 2 * day, path: '/' },
      { wait: 3 * day, path: '/fleet', sends: 'test-ride' },
    ]),
  );

  it('is three visits, one touch, one strand, one enquiry', () => {
    expect([derived.visits.length, derived.touches.length, derived.strands.length]).toEqual([3, 1, 1]);
    expect(derived.enquiries[0]).toMatchObject({ visitNumber: 3, strand: derived.strands[0]!.id, form: 'test-ride' });
  });

  it('made every hop up to Form sent', () => {
    expect(hopsOf(derived)).toEqual([
      ['clicked', 'made_it', null],
      ['landed', 'made_it', null],
      ['kept', 'made_it', null],
      ['onward', 'left', 'visit_ended'],
      ['form_sent', 'made_it', null],
    ]);
  });
});

describe('a form by which people subscribe', () => {
  describe('what somebody converts by', () => {
    const click = browse([{ wait: 0, path: '/guide?qsid=Q1&utm_source=quillsearch' }]);
    const took = (wait: number, id: string, value: string): RecordedHit => ({
      ...click[0]!,
      at: start + wait,
      hit: {
        ...{ ...click[0]!.hit, id: idAt(start + wait, 500), at: start + wait, kind: 'event' as const },
        ...{ event: 'booking_opened', key: id, cue: 0 },
        reads: [
          { reading: 'line', value },
          { reading: 'total', value: '12.50' },
        ],
      } as Hit,
    });
    const of = (each: boolean): ConversionRule[] => [{ kind: 'event', event: 'booking_opened', each, names: [] }];
    const conversions = (hits: RecordedHit[], rules: ConversionRule[]) =>
      derive(hits, undefined, undefined, rules).conversions;

    it('is an event with what it took along, its amounts of money, and the clicks of an order', () => {
      expect(conversions([...click, took(1000, 'a', 'fleet')], of(false))).toMatchObject([
        {
          ...{ kind: 'event', name: 'booking_opened', at: start + 1000 },
          fields: { line: 'fleet', total: '12.50' },
          amounts: [{ name: 'total', amount: '12.50', currency: 'GBP' }],
          strands: [derive(click).strands[0]!.id],
        },
      ]);
    });

    it('is the first of its kind for the same click, unless each time counts', () => {
      const hits = [...click, took(1000, 'a', 'fleet'), took(2000, 'b', 'fleet'), took(3000, 'c', 'shop')];
      expect(conversions(hits, of(false)).map(({ at }) => at - start)).toEqual([1000, 3000]);
      expect(conversions(hits, of(true)).map(({ at }) => at - start)).toEqual([1000, 2000, 3000]);
      expect(conversions(hits, [{ kind: 'event', event: 'other', each: true, names: [] }])).toEqual([]);
    });

    it('is a page whose path fits, under its path', () => {
      const hits = browse([
        { wait: 0, path: '/guide?qsid=Q1' },
        { wait: 1000, path: '/care/welcome?from=mail' },
      ]);
      expect(conversions(hits, [{ kind: 'page', test: 'begins', text: '/care', each: false }])).toMatchObject([
        { kind: 'page', name: '/care/welcome', fields: {}, strands: [derive(hits).strands[0]!.id] },
      ]);
    });
  });

  it('makes a sign-up with the click it may be counted for, and no enquiry', () => {
    const hits = browse([
      { wait: 0, path: click, referrer: 'http://quillsearch.localhost/' },
      { wait: 3 * day, path: '/care', sends: 'test-ride' },
    ]);
    const forms = [{ name: 'test-ride', words: 'Care plan', counts: 'sign_up' as const }];
    const derived = derive(hits, undefined, forms);
    const [strand] = derived.strands;
    expect(derived.enquiries).toEqual([]);
    expect(derived.signUps).toMatchObject([
      { form: 'test-ride', visitNumber: 2, strands: [strand!.id], lastPaid: strand!.id },
    ]);
    expect(hopsOf(derived).at(-1)).toEqual(['onward', 'left', 'visit_ended']);
  });
});

describe('what stops a strand', () => {
  it('a browser without cookies loses the value at Kept', () => {
    expect(hopsOf(derive(browse([{ wait: 0, path: click, blocked: true }]))).at(-1)).toEqual([
      'kept',
      'lost',
      'cookies_blocked',
    ]);
  });

  it('a form whose field has nearly the right name loses it at Form sent', () => {
    const sent = browse([{ wait: 0, path: click, sends: 'call-back' }]).map(({ hit, ...rest }) => ({
      ...rest,
      hit:
        hit.kind === 'form_sent'
          ? {
              ...hit,
              form: 'test-ride',
              fills: decideFills(
                { name: 'test-ride', page: '/fleet', fields: hiddenFields(['click_ref']) },
                nothingKept(),
                rules,
              ).report,
            }
          : hit,
    }));
    expect(derive(sent).hops.at(-1)).toMatchObject({
      state: 'lost',
      reason: { code: 'form_field_near', near: 'click_ref' },
    });
  });

  it('who does not ask has left once the visit is over, and waits before', () => {
    const hits = browse([{ wait: 0, path: click }]);
    expect(hopsOf(derive(hits, start + 60_000)).at(-1)).toEqual(['onward', 'waiting', 'visit_running']);
    expect(derive(hits, start + 60_000).again).toBe(start + 30 * 60_000);
    expect(hopsOf(derive(hits, start + 30 * 60_000)).at(-1)).toEqual(['onward', 'left', 'visit_ended']);
  });
});

describe('where a click is unknown', () => {
  it('a tagged landing is a strand of its own kind, its Clicked unknown', () => {
    const derived = derive(browse([{ wait: 0, path: '/fleet?utm_source=letter&utm_medium=email' }]));
    expect(derived.strands[0]).toMatchObject({ kind: 'landing', source: 'letter', clickId: '' });
    expect(hopsOf(derived)[0]).toEqual(['clicked', 'unknown', null]);
  });

  it('a direct visit begins no strand, its enquiry belongs to none', () => {
    const derived = derive(browse([{ wait: 0, path: '/fleet', sends: 'test-ride' }]));
    expect(derived.strands).toEqual([]);
    expect(derived.enquiries[0]!.strand).toBeNull();
  });
});

describe('click IDs', () => {
  it('that come together begin a strand each, and the touch names the first', () => {
    const derived = derive(browse([{ wait: 0, path: '/fleet?utm_campaign=c1&tsl=T1&qsid=Q1', sends: 'test-ride' }]));
    expect(derived.touches).toMatchObject([{ platform: 'tessaloop', clickId: 'T1', source: 'tessaloop' }]);
    expect(derived.strands).toMatchObject([
      { platform: 'tessaloop', clickId: 'T1', source: 'tessaloop', medium: '', campaign: 'c1' },
      { platform: 'quillsearch', clickId: 'Q1', source: 'quillsearch', medium: 'paid-search', campaign: 'c1' },
    ]);
    const kept = derived.hops.filter(({ hop }) => hop === 'kept');
    expect(kept.map(({ state }) => state)).toEqual(['made_it', 'made_it']);
    // The enquiry belongs to the one that the touch names, and the form carried it.
    expect(derived.enquiries[0]!.strand).toBe(derived.strands[0]!.id);
    expect(
      derived.hops.find(({ hop, subject }) => hop === 'form_sent' && subject === derived.enquiries[0]!.id),
    ).toMatchObject({
      state: 'made_it',
    });
  });

  it('that is new beside a known one is followed', () => {
    const derived = derive(
      browse([
        { wait: 0, path: '/fleet?qsid=Q1' },
        { wait: day, path: '/fleet?qsid=Q1&tsl=T1' },
      ]),
    );
    expect(derived.strands.map(({ clickId }) => clickId)).toEqual(['Q1', 'T1']);
    expect(derived.touches[1]).toMatchObject({ because: 'click_id_new', clickId: 'T1' });
  });

  it('that comes again after its cookie had ended keeps its first time, starts no touch, and its form belongs to it', () => {
    const derived = derive(
      browse([
        { wait: 0, path: '/fleet?tsl=T1' },
        { wait: 120 * day, path: '/fleet?tsl=T1', sends: 'test-ride', ended: true },
      ]),
      start + 130 * day,
    );
    expect(derived.touches).toHaveLength(1);
    expect(derived.strands).toMatchObject([{ clickId: 'T1', firstAt: start }]);
    // The page, which could not know, took it for new and filled it in.
    expect(derived.enquiries[0]).toMatchObject({ strand: derived.strands[0]!.id, touch: derived.touches[0]!.id });
    expect(derived.hops.at(-1)).toMatchObject({ hop: 'form_sent', state: 'made_it' });
  });

  it('that first comes with a reload is followed, and its link between own pages reported', () => {
    const hits = browse([
      { wait: 0, path: '/fleet' },
      { wait: 5000, path: '/fleet?qsid=Qs-1', referrer: 'http://larkmoor.localhost:4310/fleet' },
    ]);
    const again = hits.map((one) => ({ ...one, hit: { ...one.hit, navigation: 'reload' } as Hit }));
    expect(derive(again).strands.map(({ clickId }) => clickId)).toEqual(['Qs-1']);
    expect(derive(hits).findings).toMatchObject([{ kind: 'own_link_click_id', name: 'qsid' }]);
  });

  it('longer than is kept is reported, and what gave way for want of room', () => {
    const value = encodeURIComponent('配'.repeat(90));
    const tags = `utm_source=brief&utm_campaign=${value}&utm_content=${value}&utm_term=${value}`;
    const derived = derive(browse([{ wait: 0, path: `/fleet?${tags}&qsid=${'Q'.repeat(301)}` }]));
    expect(derived.strands[0]!.clickId).toBe('Q'.repeat(300));
    expect(derived.findings.map(({ kind, name }) => `${kind} ${name}`)).toEqual([
      'click_id_long qsid',
      'cookies_full first',
    ]);
  });
});

describe('deriving', () => {
  const step: fc.Arbitrary<Step> = fc.record({
    wait: fc.constantFrom(1000, 60_000, 40 * 60_000, 3 * day),
    path: fc.constantFrom(
      '/',
      click,
      click.replace('Q1', 'Q2'),
      '/fleet?tsl=T1&qsid=Q1',
      '/fleet?utm_term=x',
      '/fleet',
    ),
    referrer: fc.constantFrom('', 'https://w.example/', 'http://larkmoor.localhost:4310/'),
    sends: fc.option(fc.constantFrom('test-ride' as const, 'call-back' as const), { nil: undefined }),
    blocked: fc.constantFrom(false, false, false, true),
  });

  it('gives the same rows in whatever order the hits arrived, and when it is done again', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 10 }), fc.infiniteStream(fc.nat(1000)), (steps, order) => {
        const hits = browse(steps);
        const shuffled = hits.map((hit) => [order.next().value as number, hit] as const).sort((a, b) => a[0] - b[0]);
        expect(derive(shuffled.map(([, hit]) => hit))).toEqual(derive(hits));
      }),
    );
  });

  it('agrees with what the page itself decided, where the browser kept its cookies', () => {
    fc.assert(
      fc.property(
        fc.array(
          step.map((s) => ({ ...s, blocked: false })),
          { minLength: 1, maxLength: 10 },
        ),
        (steps) => {
          for (const touch of derive(browse(steps)).touches) expect(touch.because).toBe(touch.pageBecause);
        },
      ),
    );
  });

  it('puts every hit into exactly one visit', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 10 }), (steps) => {
        const { visits } = derive(browse(steps));
        expect(visits.reduce((sum, visit) => sum + visit.pages, 0)).toBe(steps.length);
        expect(visits.reduce((sum, visit) => sum + visit.forms, 0)).toBe(steps.filter((s) => s.sends).length);
      }),
    );
  });
});
