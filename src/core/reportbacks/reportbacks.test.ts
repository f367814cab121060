import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fleetQualified } from '../outcomes/rule.fixture';
import type { TellingRule } from '../outcomes';
import { contractOf } from '../platforms';
import type { Strand } from '../strands';
import {
  confirmedBy,
  decideCorrection,
  decideTelling,
  mayBeTaken,
  retryAfter,
  tellingHops,
  tooLate,
  waitAfter,
  type CorrectionCase,
  type TellingCase,
} from '.';

const day = 86_400_000;
const clicked = Date.UTC(2027, 0, 1);
const contract = contractOf('quillsearch', [])!;
const strand: Strand = {
  id: 's',
  kind: 'click',
  platform: 'quillsearch',
  clickId: 'Q1',
  firstAt: clicked,
  source: 'quillsearch',
  medium: 'paid-search',
  campaign: 'c',
  utmId: '',
  content: '',
  visitor: 'v',
  marked: '',
};
const telling: TellingRule = {
  outcome: 'FLT-QUAL',
  platform: 'quillsearch',
  account: 'uk',
  as: '',
  letsItBid: true,
  delayMinutes: 30,
  whose: 'platform',
  percent: 100,
  purpose: 'advertising',
  secondKey: 'none',
  how: 'told',
  from: '',
  firstLook: false,
};
const base: TellingCase = {
  stoppedBy: '',
  sameAs: '',
  earlier: null,
  outcome: { ...fleetQualified, clickDays: 90 },
  telling,
  happenedAt: clicked + 5 * day,
  strand,
  marked: '',
  leftFor: null,
  crmClickId: 'Q1',
  takenBack: '',
  brake: null,
  hasWorth: true,
  contract,
  person: null,
  isLastPaid: true,
  account: 'ready',
  consent: null,
  consentRequired: false,
};
const decide = (change: Partial<TellingCase>, now = clicked + 5 * day) => decideTelling({ ...base, ...change }, now);

describe('of whom no click was ever known', () => {
  const nobody = { ...strand, kind: 'landing' as const, platform: '', clickId: '' };
  const person = { kind: 'mail_hash' as const, value: '' };

  it('it is told by what else the platform knows people by, however long ago they came', () => {
    const rule = { ...telling, secondKey: 'mail' as const };
    const at = clicked + 500 * day;
    expect(decide({ strand: nobody, person, telling: rule, happenedAt: at, crmClickId: '' }, at)).toEqual({
      state: 'waiting',
      dueAt: at + 30 * 60_000,
      key: person,
    });
    expect(decide({ strand: nobody, person: null, telling: rule, crmClickId: '' })).toEqual({ state: 'none' });
  });

  it('it is not told without consent, nor to a platform that is told of the last paid click alone', () => {
    const asked = { strand: nobody, person, crmClickId: '' };
    expect(decide({ ...asked, consentRequired: true })).toMatchObject({ reason: { code: 'no_consent' } });
    expect(decide({ ...asked, isLastPaid: false, telling: { ...telling, whose: 'last paid touch' } })).toEqual({
      state: 'none',
    });
  });
});

describe('what another way of telling tells', () => {
  it('is worked out, and told to nobody', () => {
    const result = { state: 'withdrawn', reason: { code: 'worked_out' }, key: { kind: 'click_id', value: 'Q1' } };
    expect(decide({ telling: { ...telling, how: 'worked out' } })).toEqual(result);
    const from = new Date(base.happenedAt).toISOString();
    expect(decide({ telling: { ...telling, from } })).toMatchObject({ state: 'waiting' });
    expect(decide({ telling: { ...telling, from }, happenedAt: base.happenedAt - 1 })).toEqual(result);
  });

  it('is held for the reasons that it would be held for', () => {
    const only = { ...telling, how: 'worked out' as const };
    expect(decide({ telling: only, crmClickId: '' })).toMatchObject({ reason: { code: 'no_click_in_crm' } });
  });
});

describe('whether an outcome is told', () => {
  it('waits for its delay and tells the click ID of the CRM', () => {
    expect(decide({})).toEqual({
      state: 'waiting',
      dueAt: base.happenedAt + 30 * 60_000,
      key: { kind: 'click_id', value: 'Q1' },
    });
  });

  it('holds it where the CRM has no click ID although the visit knows it', () => {
    expect(decide({ crmClickId: '' })).toMatchObject({ state: 'held', reason: { code: 'no_click_in_crm' } });
  });

  it('tells a platform of the last paid touch alone of that, and of an order without a CRM between', () => {
    const wrenwick = {
      contract: contractOf('wrenwick', [])!,
      strand: { ...strand, platform: 'wrenwick' },
      crmClickId: null,
    };
    expect(decide({ ...wrenwick, isLastPaid: false })).toEqual({ state: 'none' });
    expect(decide(wrenwick)).toMatchObject({ state: 'waiting', key: { kind: 'click_id', value: 'Q1' } });
    expect(decide({ isLastPaid: false }).state).toBe('waiting');
  });

  it('holds it where the CRM has another click ID', () => {
    expect(decide({ crmClickId: 'q1' })).toMatchObject({ state: 'held', reason: { code: 'crm_click_differs' } });
  });

  it('holds it where the deal left the stage within the delay', () => {
    expect(decide({ leftFor: 'Not this time' })).toMatchObject({
      state: 'held',
      reason: { code: 'left_stage', stage: 'Fleet assessed', leftFor: 'Not this time' },
    });
  });

  it('tells nothing of an enquiry by staff, also where its strand is not marked', () => {
    expect(decide({ marked: 'mail' })).toMatchObject({ state: 'held', reason: { code: 'no_customer', mark: 'mail' } });
  });

  it('tells nothing of what is marked as no customer', () => {
    expect(decide({ strand: { ...strand, marked: 'bot' } })).toMatchObject({
      state: 'held',
      reason: { code: 'no_customer', mark: 'bot' },
    });
  });

  it('holds it without an amount, and without an account', () => {
    expect(decide({ brake: 'count' })).toMatchObject({ state: 'held', reason: { code: 'brake', because: 'count' } });
    // Of what cannot be told anyway its own reason is said.
    expect(decide({ brake: 'count', crmClickId: '' })).toMatchObject({ reason: { code: 'no_click_in_crm' } });
    expect(decide({ hasWorth: false })).toMatchObject({ reason: { code: 'no_worth', field: 'lease_profit' } });
    expect(decide({ account: 'none' })).toMatchObject({ reason: { code: 'no_account' } });
  });

  it('does not concern a platform whose click it is not', () => {
    expect(decide({ strand: { ...strand, platform: 'tessaloop' } })).toEqual({ state: 'none' });
    expect(decide({ strand: { ...strand, kind: 'landing', clickId: '' } })).toEqual({ state: 'none' });
  });

  it('checks the age of the click against the shorter of the two limits', () => {
    const at = (days: number) => decide({ happenedAt: clicked + days * day }, clicked + days * day).state;
    expect([at(79.9), at(80), at(85)]).toEqual(['waiting', 'held', 'held']);
  });

  it('checks the age of the outcome at the telling', () => {
    expect(tooLate(clicked, contract, clicked + 12 * day)).toBeNull();
    expect(tooLate(clicked, contract, clicked + 12 * day + 1)).toMatchObject({ code: 'told_too_late', limit: 12 });
  });
});

describe('the waits between attempts', () => {
  it('grow from a minute to six hours', () => {
    expect([1, 2, 3, 20].map((n) => waitAfter(n, 0))).toEqual([60_000, 120_000, 240_000, 21_600_000]);
  });

  it('are spread by up to a fifth, and never shorter', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, random) => {
        const wait = waitAfter(n, random);
        expect(wait).toBeGreaterThanOrEqual(waitAfter(n, 0));
        expect(wait).toBeLessThanOrEqual(waitAfter(n, 0) * 1.2);
        expect(waitAfter(n + 1, 0)).toBeGreaterThanOrEqual(waitAfter(n, 0));
      }),
    );
  });
});

describe('the hops Told and Confirmed', () => {
  const key = { strand: 's', wayIn: 'form' as const, subject: 'e', outcome: 'FLT-QUAL', release: 1 };
  const view = {
    state: 'waiting' as const,
    reason: null,
    platform: 'Quillsearch',
    answeredAt: null,
    confirmedAt: null,
    hasReport: true,
  };
  const states = (...views: Parameters<typeof tellingHops>[1]) =>
    tellingHops(key, views).map((row) => [row.hop, row.state]);

  it('stop quietly where no platform is told', () => expect(states()).toEqual([['told', 'left']]));
  it('wait while nobody answered', () => expect(states(view)).toEqual([['told', 'waiting']]));
  it('lose what is too old to be told', () =>
    expect(states({ ...view, state: 'held', reason: { code: 'click_too_old', days: 81, limit: 80 } })).toEqual([
      ['told', 'lost'],
    ]));
  it('wait where a mend can still free it', () =>
    expect(states({ ...view, state: 'held', reason: { code: 'no_click_in_crm' } })).toEqual([['told', 'waiting']]));
  it('lose at Confirmed what was refused', () => {
    const reason = { code: 'refused', platform: 'Quillsearch', answer: 'no such click' } as const;
    expect(states({ ...view, state: 'refused', reason, answeredAt: 5 })).toEqual([
      ['told', 'made_it'],
      ['confirmed', 'lost'],
    ]);
  });
  it('rest on the answer alone where the platform has no report, and say so', () => {
    const taken = { ...view, state: 'confirmed', answeredAt: 5, confirmedAt: 5 } as const;
    const evidence = (hasReport: boolean) => tellingHops(key, [{ ...taken, hasReport }])[1]!.evidence;
    expect([evidence(true), evidence(false)]).toEqual(['platform_report', 'answer']);
    // Also where a person found it there.
    expect(states({ ...view, state: 'told', answeredAt: 5, hasReport: false })[1]).toEqual(['confirmed', 'made_it']);
  });
  it('wait for the report after it was taken, and are made once it holds the row', () => {
    expect(states({ ...view, state: 'told', answeredAt: 5 })[1]).toEqual(['confirmed', 'waiting']);
    expect(states({ ...view, state: 'confirmed', answeredAt: 5, confirmedAt: 6 })[1]).toEqual(['confirmed', 'made_it']);
  });
});

describe('confirming by the platform’s report', () => {
  const taken = ['a', 'b', 'c'].map((id) => ({
    id,
    outcome: 'FLT-QUAL',
    day: '2027-02-01',
    confirmed: id === 'c',
    unsure: false,
  }));

  it('confirms a day once the report holds at least as many as were taken', () => {
    expect(confirmedBy(taken, [{ day: '2027-02-01', outcome: 'FLT-QUAL', counted: 3 }])).toEqual(['a', 'b']);
  });
  it('leaves the whole day waiting where it holds fewer', () => {
    expect(confirmedBy(taken, [{ day: '2027-02-01', outcome: 'FLT-QUAL', counted: 2 }])).toEqual([]);
  });
  it('confirms rows that are unsure only where the report holds enough for them too', () => {
    const both = taken.map((row) => ({ ...row, unsure: row.id === 'b' }));
    expect(confirmedBy(both, [{ day: '2027-02-01', outcome: 'FLT-QUAL', counted: 2 }])).toEqual(['a']);
    expect(confirmedBy(both, [{ day: '2027-02-01', outcome: 'FLT-QUAL', counted: 3 }])).toEqual(['a', 'b']);
  });
  it('does not take another day’s or outcome’s number for it', () => {
    expect(confirmedBy(taken, [{ day: '2027-02-02', outcome: 'FLT-QUAL', counted: 9 }])).toEqual([]);
  });
});

describe('how long a service asks to be left alone', () => {
  const now = Date.UTC(2027, 1, 1, 12);
  const hours = 3_600_000;
  it.each<[string | undefined, number | null]>([
    ['30', 30_000],
    ['2.5', 2500],
    ['0', 1000],
    ['-100', 1000],
    ['99999999999', 6 * hours],
    ['9999999999999999', 6 * hours],
    ['Mon, 01 Feb 2027 12:00:30 GMT', 30_000],
    ['Mon, 01 Feb 2027 11:00:00 GMT', 1000],
    ['Fri, 31 Dec 9999 23:59:59 GMT', 6 * hours],
    [undefined, null],
    ['', null],
    ['soon', null],
    ['1e9', null],
    ['Infinity', null],
  ])('%s', (header, wait) => expect(retryAfter(header, now)).toBe(wait));
});

describe('a row may have been taken', () => {
  it.each([
    [[], false],
    [['429'], false],
    [['500'], true],
    [['no answer'], true],
    [['no answer yet'], true],
    [['not sent', 'not sent'], false],
    [['not sent', 'no answer', 'not sent'], true],
    [['no answer', '429'], true],
    [['no answer', 'not taken'], false],
    [['no answer', 'not taken', '503'], true],
  ])('after %j: %s', (attempts, may) => expect(mayBeTaken(attempts)).toBe(may));
});

describe('whether a platform is told that an outcome is worth something else', () => {
  const taken: CorrectionCase = {
    has: 13_500,
    worth: 10_000,
    change: 'revalued',
    cause: 'refund',
    takenAt: clicked,
    contract,
    account: 'ready',
    newest: null,
  };
  const correct = (change: Partial<CorrectionCase>, days = 1) =>
    decideCorrection({ ...taken, ...change }, clicked + days * day);
  const newest = { isOpen: true, tells: 10_000, stoppedBy: '', mayBeTaken: false };

  it('waits to be told as the next correction, and is none while the worth is what it has', () => {
    expect(correct({})).toEqual({ state: 'waiting', isNew: true });
    expect(correct({ worth: 13_500, change: '' })).toEqual({ state: 'none' });
  });

  it('changes the one that waits; it becomes needless where the worth is again what the platform has', () => {
    expect(correct({ worth: 9000, newest })).toEqual({ state: 'waiting', isNew: false });
    expect(correct({ worth: 13_500, newest })).toEqual({ state: 'withdrawn', reason: { code: 'changed_back' } });
    expect(correct({ worth: 13_500, newest: { ...newest, mayBeTaken: true } })).toEqual({
      state: 'waiting',
      isNew: false,
    });
  });

  it('is not told again for a worth that somebody took out or the platform refused', () => {
    expect(correct({ newest: { ...newest, isOpen: false } })).toEqual({ state: 'none' });
    expect(correct({ worth: 9000, newest: { ...newest, isOpen: false } })).toEqual({ state: 'waiting', isNew: true });
  });

  it('is held with its reason where it cannot be told', () => {
    const reasonOf = (change: Partial<CorrectionCase>, days?: number) => {
      const decision = correct(change, days);
      return 'reason' in decision ? decision.reason.code : decision.state;
    };
    expect(reasonOf({ contract: contractOf('tessaloop', [])! })).toBe('change_not_taken');
    expect(reasonOf({}, 61)).toBe('change_too_late');
    expect(reasonOf({}, 60)).toBe('waiting');
    expect(reasonOf({ change: 'other_currency', worth: 13_500 })).toBe('other_currency');
    expect(reasonOf({ account: 'paused' })).toBe('account_off');
    expect(reasonOf({ newest: { ...newest, stoppedBy: 'Maud' } })).toBe('held_by');
  });

  it('of what was given back before the platform was told, nothing is told at all', () => {
    expect(decide({ takenBack: 'chargeback' })).toMatchObject({
      state: 'held',
      reason: { code: 'taken_back', cause: 'chargeback' },
    });
  });
});

describe('who is told, by the telling’s own rule', () => {
  const partner = contractOf('wrenwick', [])!;
  const byPartner = { strand: { ...strand, platform: 'wrenwick' }, contract: partner };

  it('is every platform with a click in its time, or only the last paid touch, whatever is usual for its kind', () => {
    const stateOf = (whose: TellingRule['whose'], change: Partial<TellingCase>) =>
      decide({ ...change, telling: { ...telling, whose }, isLastPaid: false }).state;
    expect([stateOf('platform', {}), stateOf('platform', byPartner)]).toEqual(['waiting', 'none']);
    expect([stateOf('last paid touch', {}), stateOf('every click', byPartner)]).toEqual(['none', 'waiting']);
  });

  it('is whoever agreed to the purpose that the rule names', () => {
    const consent = { measurement: 'yes', advertising: 'no' } as const;
    const agreed = (purpose: TellingRule['purpose']) =>
      decide({ consent, consentRequired: true, telling: { ...telling, purpose } }).state;
    expect([agreed('advertising'), agreed('measurement')]).toEqual(['held', 'waiting']);
  });
});
