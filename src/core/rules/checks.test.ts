import { describe, expect, it } from 'vitest';
import { fillRule, rules } from '../capture/rules.fixture';
import { freshEvent } from '../events/words';
import type { LadderRule, OutcomeRule, TellingRule } from '../outcomes/schema';
import { firstPlan } from '../plan/first-plan';
import { readChanges, ruleSchemas } from '../releases/draft-schema';
import type { ReleaseContent } from '../releases/schema';
import {
  applyChanges,
  readRule,
  ruleDetails,
  ruleKind,
  ruleKinds,
  ruleSentence,
  type RuleChange,
  type RuleKindName,
} from './index';

const content: ReleaseContent = {
  capture: { ...rules, carry: [{ platform: 'quillsearch', name: 'lark_key' }] },
  plan: firstPlan(),
  crmWrites: [],
  crm: { account: 'crm', leadTokenField: 'avx_lead', fields: {}, stages: { inOrder: ['Asked'], ended: [] } },
  noCustomer: { networks: [], mailDomains: [], hosts: [] },
  events: { readings: [], events: [], wires: [], presses: true },
  platforms: [],
  crms: [],
  outcomes: [],
  telling: [],
  ladders: [],
  goals: [],
  qualified: { form: 'FLT-QUAL' },
};
const clickId = (parameter: string, platform = 'tessaloop') => ({
  platform,
  parameter,
  alsoAs: [],
  days: 21,
  source: platform,
  medium: '',
});
const problems = (kind: RuleKindName, id: string, value: unknown) =>
  ruleKind(kind).check!(value, applyChanges(content, [{ kind, id, value }])).map(
    ({ field, was }) => `${field}: ${was}`,
  );

describe('a rule of the pages', () => {
  it.each<[string, RuleKindName, string, unknown, string[]]>([
    ['a click ID of a name of its own', 'click_id', 'tessaloop', clickId('tsl2'), []],
    ['one under its own name again', 'click_id', 'quillsearch', clickId('qsid', 'quillsearch'), []],
    [
      'one under the name of a tag',
      'click_id',
      'tessaloop',
      clickId('utm_term'),
      ['parameter: `utm_term` is a name of its own already'],
    ],
    [
      'one under another platform’s name',
      'click_id',
      'tessaloop',
      clickId('qsid'),
      ['parameter: `qsid` is a name of its own already'],
    ],
    [
      'one under a carry name',
      'click_id',
      'tessaloop',
      clickId('lark_key'),
      ['parameter: `lark_key` is a name of its own already'],
    ],
    ['a carry name', 'carry', 'lark_ref', { platform: 'quillsearch', name: 'lark_ref' }, []],
    [
      'a carry name that is a click ID’s own',
      'carry',
      'tsl',
      { platform: 'quillsearch', name: 'tsl' },
      ['name: `tsl` is a name of its own already'],
    ],
    [
      'a carry name that is the click ID’s of a platform whose clicks are not kept',
      'carry',
      'Qsid',
      { platform: 'quillsearch', name: 'Qsid' },
      ['name: `Qsid` is Quillsearch’s own name, which browsers take out of addresses too'],
    ],
    ['names that say who somebody is', 'pii', '', { names: ['email', 'who'] }, []],
    [
      'a click ID and a tag among them',
      'pii',
      '',
      { names: ['email', 'qsid', 'utm_id'] },
      [
        'names: `qsid` is a tag or a click ID, which would be lost',
        'names: `utm_id` is a tag or a click ID, which would be lost',
      ],
    ],
  ])('%s', (_, kind, id, value, wanted) => expect(problems(kind, id, value)).toEqual(wanted));

  it.each<[string, RuleKindName, unknown, string]>([
    ['no field', 'fill', { ...fillRule({ id: 'r', field: '', reading: 'click_id' }) }, 'must say which field'],
    [
      'a page without /',
      'fill',
      fillRule({ id: 'r', field: 'a', reading: 'click_id', pages: ['x'] }),
      'must begin with /',
    ],
    ['no day', 'click_id', { ...clickId('tsl'), days: 0 }, 'must be 1 to 400 days'],
    ['a query name with a space', 'click_id', clickId('t sl'), 'must begin with a letter'],
    ['a form without words', 'followed_form', { name: 'ask', words: '' }, 'must say what people call it'],
    ['a visit of no minute', 'visit', { ...rules.touch, visitMinutes: 0 }, 'must be 1 to 1,440 minutes'],
    ['a consent that is neither', 'consent', { required: 'maybe' }, 'boolean'],
  ])('with %s is refused in words', (_, kind, value, words) => {
    const parsed = ruleSchemas[kind].safeParse(value);
    expect(parsed.success ? '' : parsed.error.issues[0]!.message).toContain(words);
  });

  it('stays in its place when it is changed, and comes last when it is new', () => {
    const changes: RuleChange[] = [
      { kind: 'click_id', id: 'quillsearch', value: { ...rules.keep.clickIds[0]!, days: 7 } },
      { kind: 'fill', id: 'c', value: fillRule({ id: 'c', field: 'c', reading: 'last_term' }) },
      { kind: 'fill', id: 'a', value: null },
    ];
    const { capture } = applyChanges(content, changes);
    expect(capture.keep.clickIds.map(({ platform, days }) => [platform, days])).toEqual([
      ['quillsearch', 7],
      ['tessaloop', 30],
    ]);
    expect(capture.fill.map(({ id }) => id)).toEqual(['b', 'c']);
    expect(capture.touch).toBe(content.capture.touch);
  });

  it('of which there is just one is not taken out', () => {
    const changes: RuleChange[] = [{ kind: 'keep', id: '', value: null }];
    expect(applyChanges(content, changes)).toEqual(content);
  });

  it('reads as a sentence out of a release', () => {
    expect(ruleSentence('fill', readRule(content, { kind: 'fill', id: 'b' }))).toBe(
      'The field `source` of every form gets the source, only when it is empty.',
    );
    expect(ruleSentence('carry', readRule(content, { kind: 'carry', id: 'lark_key' }))).toBe(
      'The click ID of Quillsearch also travels as `lark_key`.',
    );
    expect(ruleSentence('carry', readRule(content, { kind: 'carry', id: 'none' }))).toBeNull();
  });
});

describe('changes as they are sent', () => {
  it('get what their schemas give to what was left out', () => {
    const bare = { id: 'r', field: 'a', forms: [], reading: 'click_id', platform: '', when: 'always' };
    expect(readChanges([{ kind: 'fill', id: 'r', value: bare }])).toEqual([
      { kind: 'fill', id: 'r', value: fillRule({ id: 'r', field: 'a', reading: 'click_id' }) },
    ]);
  });

  it('name each field that is wrong', () => {
    const wrong = { ...clickId('9'), days: 900 };
    expect(() => readChanges([{ kind: 'click_id', id: 'tessaloop', value: wrong }])).toThrow(
      expect.objectContaining({
        fields: [
          { field: 'parameter', was: expect.any(String), fix: expect.any(String) },
          expect.objectContaining({ field: 'days' }),
        ],
      }),
    );
  });

  it('that take a rule out need no value', () => {
    expect(readChanges([{ kind: 'carry', id: 'x', value: null }])).toEqual([{ kind: 'carry', id: 'x', value: null }]);
  });
});

describe('a rule of outcomes and of the CRM', () => {
  const outcome = (part: object) => ({
    code: 'FLT-QUAL',
    version: 1,
    words: 'Fleet assessed',
    clickDays: 80,
    countedOnceFor: 'enquiry',
    reachedBy: { kind: 'stage', stage: 'Asked' },
    worth: { kind: 'none' },
    ...part,
  });
  const telling = (part: object) => ({
    ...{
      outcome: 'FLT-QUAL',
      platform: 'wrenwick',
      account: 'wrenwick',
      as: 'paid',
      letsItBid: false,
      delayMinutes: 0,
      secondKey: 'none',
      how: 'told',
    },
    ...part,
  });
  it.each<[string, RuleKindName, string, unknown, string[]]>([
    ['an outcome at a stage of the CRM', 'outcome', 'FLT-QUAL', outcome({}), []],
    [
      'one at a stage that vanished',
      'outcome',
      'FLT-QUAL',
      outcome({ reachedBy: { kind: 'stage', stage: 'Gone' } }),
      ['stage: “Gone” is no stage of the CRM'],
    ],
    [
      'one of orders counted for each deal',
      'outcome',
      'FLT-QUAL',
      outcome({ reachedBy: { kind: 'order' }, countedOnceFor: 'deal' }),
      ['countedOnceFor: it would never be counted once for each deal'],
    ],
    [
      'one of a field that is not named',
      'outcome',
      'FLT-QUAL',
      outcome({ reachedBy: { kind: 'field', name: '', test: 'equals', text: 'approved' } }),
      ['fieldName: the field is missing'],
    ],
    [
      'one of an event, with a condition on what it does not take along',
      'outcome',
      'FLT-QUAL',
      outcome({
        reachedBy: {
          kind: 'event',
          event: 'enquiry_sent',
          conditions: [{ reading: 'line', test: 'equals', not: false, text: 'fleet' }],
        },
        countedOnceFor: 'click',
      }),
      ['conditions: `enquiry_sent` does not take `line` along'],
    ],
    [
      'one of a page by a pattern that is none',
      'outcome',
      'FLT-QUAL',
      outcome({ reachedBy: { kind: 'page', test: 'pattern', text: '(' }, countedOnceFor: 'visitor' }),
      ['path: it is no pattern: missing closing ): `(`'],
    ],
    [
      'a ladder with one step twice',
      'ladder',
      'Fleet',
      { name: 'Fleet', steps: ['FLT-QUAL', 'FLT-QUAL'], tells: 'one bids' },
      ['steps: `FLT-QUAL` is there twice'],
    ],
    ['a telling by a name that the platform knows', 'telling', 'FLT-QUAL wrenwick', telling({}), []],
    [
      'one as a test to a platform that takes none, by what it does not know people by',
      'telling',
      'FLT-QUAL wrenwick',
      telling({ how: 'tested', secondKey: 'mail' }),
      ['how: Wrenwick cannot be asked as a test', 'secondKey: Wrenwick does not know people by their email address'],
    ],
    [
      'one by a name that it does not know',
      'telling',
      'FLT-QUAL wrenwick',
      telling({ as: 'won' }),
      ['as: `won` is no name that it knows'],
    ],
    [
      'a stage that is there twice',
      'crm',
      '',
      { ...content.crm, stages: { inOrder: ['Asked'], ended: ['Asked'] } },
      ['stages: the stage “Asked” is there twice'],
    ],
  ])('%s', (_, kind, id, value, wanted) => expect(problems(kind, id, value)).toEqual(wanted));

  it('two outcomes of the same thing that one account may bid on stop a release', () => {
    const order = { ...content.outcomes[0]!, code: 'SHP-MORE', reachedBy: { kind: 'order' as const } };
    const outcomes = [...content.outcomes, { ...order, code: 'SHP-PAID' }, order];
    const bids = (outcome: string, letsItBid = true) => telling({ outcome, letsItBid }) as TellingRule;
    const found = (second: boolean) =>
      ruleKinds.telling.check!(bids('SHP-PAID'), {
        ...content,
        outcomes,
        telling: [bids('SHP-PAID'), bids('SHP-MORE', second)],
      }).map(({ was }) => was);
    expect(found(true)).toEqual(['Wrenwick may bid on `SHP-PAID` and `SHP-MORE`, which count the same']);
    expect(found(false)).toEqual([]);
  });

  it('a ladder on which only one step bids names the account that may bid on several', () => {
    const steps = ['FLT-QUAL', 'FLT-SIGNED'];
    const tells = (code: string, letsItBid: boolean) => telling({ outcome: code, letsItBid }) as TellingRule;
    const found = (isBoth: boolean, how: LadderRule['tells']) =>
      ruleKinds.ladder.check!(
        { name: 'Fleet', steps, tells: how },
        { ...content, telling: [tells('FLT-QUAL', true), tells('FLT-SIGNED', isBoth)] },
      ).map(({ field, was }) => `${field}: ${was}`);
    expect(found(true, 'one bids')).toEqual([
      'tells: `wrenwick` may bid on 2 steps of it, `FLT-QUAL` and `FLT-SIGNED`, each with its whole worth',
    ]);
    expect([found(false, 'one bids'), found(true, 'what it adds')]).toEqual([[], []]);
    const mixed = [outcome({}), outcome({ code: 'FLT-SIGNED', reachedBy: { kind: 'order' } })] as OutcomeRule[];
    const adds: LadderRule = { name: 'Fleet', steps, tells: 'what it adds' };
    expect(ruleKinds.ladder.check!(adds, { ...content, outcomes: mixed })).toMatchObject([
      { was: '`FLT-SIGNED` is not reached by the same deal, order or subscription as the steps before it' },
    ]);
  });

  it('a platform of one’s own needs the click ID in its rows, and a name that no other has', () => {
    const own = ruleKinds.platform.start!({}, []);
    const value = {
      ...own,
      kind: 'quillsearch',
      clickParameters: ['qx'],
      telling: { ...own.telling, fields: own.telling.fields.slice(1) },
    };
    expect(problems('platform', 'quillsearch', value)).toEqual([
      'kind: `quillsearch` is a platform that Avrix knows',
      'telling.fields: no row says the click ID',
    ]);
  });

  it('a CRM of one’s own needs a way for its records to arrive', () => {
    const own = { ...ruleKinds.own_crm.start!({}, []), webhook: null };
    expect(problems('own_crm', own.kind, own)).toEqual([
      'arrives: its records arrive in no way',
      'reads.stage: no stage is read, so no outcome can be reached by one',
    ]);
  });
});

describe('an email address that is read hashed', () => {
  const mail = { id: 'mail', words: 'Email', from: 'field', name: 'mail', attribute: '', as: 'mail_hash', unit: '' };
  const bikes = { ...mail, id: 'bikes', words: 'Bikes', name: 'bikes', as: 'text' };
  const readings = [mail, bikes].map((one) => ({ ...one, swap: '' })) as ReleaseContent['events']['readings'];
  const asked = { ...freshEvent(), name: 'asked', words: 'Asked' };
  const event = { ...asked, cues: [{ ...asked.cues[0]!, text: 'test-ride' }] };
  const beside = { ...content, events: { ...content.events, readings, events: [event] } };
  const wire = (kind: string, name: string, reading: string) => ({
    event: 'asked',
    account: kind,
    kind,
    named: [{ text: 'asked', reading: '' }],
    by: 'server',
    purpose: 'advertising',
    fields: [{ name, reading }],
  });
  const wrong = (kind: RuleKindName, value: unknown) => ruleKind(kind).check!(value, beside).map(({ was }) => was);

  it('goes into fields that take it so, and nothing else goes there', () => {
    expect(wrong('wire', wire('tessaloop', 'mail_hash', 'mail'))).toEqual([]);
    expect(wrong('wire', wire('tessaloop', 'mail_hash', 'bikes'))).toEqual([
      '`mail_hash` takes an email address only hashed, and `bikes` is not',
    ]);
    expect(wrong('wire', wire('meterhall', 'mail', 'mail'))).toEqual([
      'the field `mail` of Meterhall takes no hashed email address',
    ]);
    const named = [{ text: '', reading: 'mail' }];
    expect(wrong('wire', { ...wire('meterhall', 'bikes', 'bikes'), named })).toEqual(['a name holds no email address']);
  });

  it('is nothing that an event takes along, asks for or counts by', () => {
    const only = '`mail` is read only for destinations that take email addresses hashed';
    expect(wrong('event', event)).toEqual([]);
    expect(wrong('event', { ...event, reads: ['mail'] })).toEqual([only]);
    expect(wrong('event', { ...event, onceFor: 'reading', onceReading: 'mail' })).toEqual([only]);
    const conditions = [{ reading: 'mail', test: 'there', not: false, text: '' }];
    expect(wrong('event', { ...event, conditions })).toEqual([only]);
  });

  it('of an event that pages tell cannot begin at a stated time', () => {
    const later = { ...wire('tessaloop', 'mail_hash', 'mail'), how: 'told', from: '2027-02-15T17:00:00Z' };
    expect(wrong('wire', later)).toEqual([]);
    expect(wrong('wire', { ...later, by: 'both' })).toEqual(['pages cannot begin to tell it at a stated time']);
  });

  it('is shown before it goes live where a new wire sends it along', () => {
    const fresh = wire('tessaloop', 'mail_hash', 'mail');
    expect(ruleDetails('wire', null, fresh)).toEqual(['It says `mail_hash` by `mail`.']);
    expect(ruleDetails('wire', fresh, fresh)).toEqual([]);
    expect(ruleDetails('event', null, { ...event, reads: ['bikes'] })).toEqual(['It takes along `bikes`.']);
  });

  it('is read where somebody typed it', () => {
    expect(wrong('reading', { ...readings[0]!, from: 'kept' })).toEqual([
      'an email address is read from the page, where somebody typed it or it is shown',
    ]);
  });

  it('goes to a platform of one’s own whose rows have a place for it', () => {
    const own = ruleKinds.platform.start!({}, []);
    const takes = { ...own.telling, fields: [...own.telling.fields, { at: '/mail', reading: 'mail_hash', text: '' }] };
    const told = (telling: unknown) =>
      ruleKind('wire').check!(wire(own.kind, 'mail_hash', 'mail'), {
        ...beside,
        platforms: [{ ...own, telling } as (typeof content.platforms)[number]],
      }).map(({ field }) => field);
    expect(told(takes)).toEqual([]);
    expect(told({ ...own.telling, path: '/told{?mail_hash}' })).toEqual([]);
    expect(told(own.telling)).toEqual(['fields', 'fields']);
  });
});
