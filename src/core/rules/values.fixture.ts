import fc from 'fast-check';
import { writtenParts } from '../leads/schema';
import { tagRule } from '../plan/first-plan';
import { nothingRead } from './own-crm';
import { qualifyingWays } from './qualified';
import { ruleKinds, type RuleKindName } from './index';

const word = fc.stringMatching(/^[a-z][a-z0-9]{0,8}$/);
const words = fc.stringMatching(/^[A-Z][a-z ]{0,18}[a-z]$/);
const outcomeCode = fc.stringMatching(/^[A-Z]{3}-[A-Z]{2,5}$/);
const part = fc.record({
  key: word,
  label: words,
  digits: fc.integer({ min: 1, max: 8 }),
  kind: fc.constantFrom('listed', 'digits', 'word', 'words'),
  values: fc.array(fc.record({ value: word, label: words }), { maxLength: 3 }),
});

/** A rule of each kind, as its schema lets it through. */
export const values: Record<RuleKindName, fc.Arbitrary<unknown>> = {
  tag: fc.tuple(word, words, fc.integer({ min: 1, max: 200 })).map(([tag, name, longest]) => ({
    ...tagRule(tag, name, { longest }),
  })),
  naming: fc.record({ pattern: fc.constant('{a}'), parts: fc.array(part, { maxLength: 3 }) }),
  channel: fc.record({
    medium: word,
    channel: words,
    crmTypes: fc.array(words, { maxLength: 2 }),
    tracked: fc.boolean(),
    media: fc.constantFrom('owned', 'earned', 'paid'),
    joins: fc.constantFrom('on', 'in', 'through'),
  }),
  source: fc.record({
    source: word,
    mediums: fc.array(word, { maxLength: 3 }),
    fixed: fc.array(
      fc.tuple(word, word).map(([tag, value]) => `${tag}=${value}`),
      { maxLength: 2 },
    ),
  }),
  referrer: fc.record({ host: word.map((host) => `${host}.example`), channel: words }),
  alias: fc.record({ tag: word, value: fc.string({ minLength: 1, maxLength: 20 }), means: word }),
  carry: fc.record({ platform: word, name: word }),
  tag_carry: fc.record({ tag: word, name: word, written: fc.boolean() }),
  keep: fc.record({
    touchDays: fc.integer({ min: 1, max: 400 }),
    touchAge: fc.constantFrom('renewed', 'fixed'),
    utmLowerCase: fc.boolean(),
    setBy: fc.constantFrom('page', 'server'),
  }),
  kept_value: fc.record({
    name: word,
    cookie: word.map((name) => `avx_${name}`),
    days: fc.integer({ min: 1, max: 400 }),
    longest: fc.integer({ min: 1, max: 200 }),
    age: fc.constantFrom('renewed', 'fixed'),
    which: fc.constantFrom('first', 'last'),
    lowerCase: fc.boolean(),
    characters: fc.constantFrom('any', 'words', 'digits'),
  }),
  swap: fc.record({
    name: word,
    rows: fc.array(fc.record({ value: word, gives: word, take: fc.constantFrom('', 'itself', 'last_referrer_host') }), {
      maxLength: 3,
    }),
    otherwise: fc.record({ gives: word, take: fc.constantFrom('', 'itself') }),
  }),
  elsewhere: fc.record({
    name: words,
    host: word.map((host) => `${host}.example`),
    kind: fc.constantFrom('own_website', 'frame', 'form', 'calendar'),
    returns: fc.constantFrom('restored', 'thank_you', 'hook', 'nothing'),
    plain: fc.array(fc.record({ name: word, reading: fc.constantFrom('last_source', 'first_id'), platform: word }), {
      maxLength: 2,
    }),
  }),
  call_code: fc.record({ element: word.map((name) => `.${name}`), pages: word.map((name) => `/${name}`) }),
  no_customer: fc.record({
    networks: fc.array(fc.ipV4(), { maxLength: 3 }),
    mailDomains: fc.array(
      fc.domain().map((domain) => domain.toLowerCase()),
      { maxLength: 3 },
    ),
    hosts: fc.array(
      word.map((host) => `${host}.example`),
      { maxLength: 3 },
    ),
  }),
  click_id: fc.record({
    platform: word,
    parameter: word,
    alsoAs: fc.array(word, { maxLength: 2 }),
    days: fc.integer({ min: 1, max: 400 }),
    source: word,
    medium: word,
  }),
  visit: fc.record({
    visitMinutes: fc.integer({ min: 1, max: 1440 }),
    ownHosts: fc.array(word, { minLength: 1, maxLength: 3 }),
    passThroughHosts: fc.array(word, { maxLength: 3 }),
  }),
  consent: fc.record({ required: fc.boolean(), count: fc.boolean() }),
  pii: fc.record({ names: fc.array(word, { maxLength: 3 }) }),
  reading: fc.record({
    id: word,
    words,
    from: fc.constantFrom('query', 'cookie', 'element', 'pressed', 'field', 'page', 'kept', 'fixed'),
    name: word,
    attribute: word,
    as: fc.constantFrom('text', 'number'),
    unit: fc.constantFrom('', 'GBP'),
    swap: word,
  }),
  event: fc.record({
    name: word,
    words,
    cues: fc.array(
      fc.record({
        kind: fc.constantFrom('arrives', 'sends', 'presses', 'leaves_for', 'stays', 'says'),
        part: fc.constantFrom('path', 'query', 'address'),
        test: fc.constantFrom('equals', 'begins', 'contains'),
        text: word,
        amount: fc.integer({ min: 1, max: 3600 }),
      }),
      { minLength: 1, maxLength: 3 },
    ),
    conditions: fc.array(
      fc.record({
        reading: fc.constantFrom('path', 'last_source', 'fleet_size'),
        test: fc.constantFrom('equals', 'at_least', 'there'),
        not: fc.boolean(),
        text: word,
      }),
      { maxLength: 3 },
    ),
    reads: fc.array(word, { maxLength: 3 }),
    onceFor: fc.constantFrom('each_time', 'lead_token', 'order', 'reading', 'visit', 'visitor'),
    onceReading: word,
  }),
  wire: fc.record({
    event: word,
    account: word,
    kind: fc.constant('meterhall'),
    named: fc.array(fc.record({ text: word, reading: fc.constantFrom('', 'path') }), { minLength: 1, maxLength: 3 }),
    fields: fc.array(fc.record({ name: word, reading: word }), { maxLength: 2 }),
    by: fc.constantFrom('server', 'page', 'both'),
    purpose: fc.constantFrom('measurement', 'advertising'),
    how: fc.constantFrom('told', 'worked out'),
    from: fc.constantFrom('', '2027-02-15T17:00:00Z'),
  }),
  presses: fc.record({ presses: fc.boolean() }),
  fill: fc.record({
    id: word,
    field: word,
    forms: fc.array(word, { maxLength: 2 }),
    platform: word,
    otherwise: word,
    swap: word,
    pages: fc.array(
      word.map((page) => `/${page}`),
      { maxLength: 2 },
    ),
    find: fc.constantFrom('name', 'id', 'label', 'selector'),
    reading: fc.constantFrom('click_id', 'last_source', 'first_landing'),
    when: fc.constantFrom('always', 'empty'),
  }),
  followed_form: fc.record({ name: word, words, counts: fc.constantFrom('enquiry' as const, 'sign_up' as const) }),
  order: fc.record({
    name: word,
    number: fc.constantFrom('/order/number', '/id'),
    currency: fc.constantFrom('/order/currency', '/in'),
    amounts: fc.subarray(['/order/total', '/order/cost', '/a~1b']),
    sameMinutes: fc.integer({ min: 0, max: 10_080 }),
  }),
  crm_write: fc.record({
    id: word,
    part: fc.constantFrom(...writtenParts),
    reading: fc.constantFrom('', 'bikes'),
    touch: fc.constantFrom('enquiry', 'first', 'each'),
    swap: fc.constantFrom('', 'placements'),
    fields: fc.uniqueArray(word, { minLength: 1, maxLength: 3 }),
    when: fc.constantFrom('empty', 'own', 'always'),
  }),
  crm: fc.record({
    account: word,
    leadTokenField: word,
    stages: fc.record({
      inOrder: fc.uniqueArray(words, { minLength: 1, maxLength: 4 }),
      ended: fc.array(words, { maxLength: 2 }),
    }),
    fields: fc.record({ click_id: word, source: word }, { requiredKeys: [] }),
  }),
  platform: fc.tuple(word, words).map(([kind, name]) => ({
    ...ruleKinds.platform.start!({}, []),
    kind: `${kind}-own`,
    words: name,
    clickParameters: ['flid'],
  })),
  own_crm: fc.tuple(word, words, fc.boolean()).map(([kind, name, isListed]) => ({
    ...ruleKinds.own_crm.start!({}, []),
    kind: `${kind}-own`,
    words: name,
    list: isListed
      ? { path: '/records', since: { name: 'since', as: 'time' }, recordsAt: '/items', nextAt: '/next' }
      : null,
    reads: { ...nothingRead, number: '/id', stage: '/stage', fields: [{ name: 'click_id', at: '/click' }] },
  })),
  outcome: fc.record({
    code: outcomeCode,
    version: fc.constant(1),
    words,
    reachedBy: fc.oneof(
      words.map((stage) => ({ kind: 'stage', stage })),
      fc.constant({ kind: 'order' }),
      fc.record({ kind: fc.constant('postback'), sender: word, step: word }),
      fc.record({ kind: fc.constant('field'), name: word, test: fc.constantFrom('equals', 'at_least'), text: words }),
      words.map((says) => ({ kind: 'file', says })),
      fc.record({ kind: fc.constant('page'), test: fc.constantFrom('begins', 'equals'), text: words }),
      fc.record({
        kind: fc.constant('event'),
        event: word,
        conditions: fc.array(
          fc.record({ reading: fc.constant('path'), test: fc.constant('begins'), not: fc.boolean(), text: words }),
          { maxLength: 2 },
        ),
      }),
    ),
    worth: fc.oneof(
      fc.constant({ kind: 'none' }),
      fc.nat().map((minor) => ({ kind: 'fixed', amount: { minor, currency: 'EUR' } })),
      fc.record({ kind: fc.constant('realised'), field: word, less: fc.array(word, { maxLength: 2 }) }),
      fc.record({ kind: fc.constant('expected'), field: word, winRate: fc.constant({ won: 1, of: 4 }) }),
    ),
    kind: fc.constantFrom('interest', 'enquiry', 'agreement', 'payment', 'renewal', 'undone'),
    countedOnceFor: fc.constantFrom('enquiry', 'deal', 'lead', 'order', 'payment', 'click', 'conversion'),
    clickDays: fc.integer({ min: 1, max: 400 }),
  }),
  telling: fc.record({
    outcome: outcomeCode,
    platform: fc.constantFrom('wrenwick', 'own'),
    account: word,
    as: fc.constantFrom('paid', 'joined'),
    letsItBid: fc.boolean(),
    delayMinutes: fc.integer({ min: 0, max: 10_080 }),
    whose: fc.constantFrom('platform', 'every click', 'last paid touch'),
    percent: fc.integer({ min: 1, max: 1000 }),
    purpose: fc.constantFrom('advertising', 'measurement'),
    secondKey: fc.constantFrom('none', 'mail', 'telephone'),
    how: fc.constantFrom('told', 'tested', 'worked out'),
    from: fc.constantFrom('', '2027-02-15T17:00:00Z'),
    firstLook: fc.boolean(),
  }),
  goal: fc.record({
    outcome: outcomeCode,
    account: word,
    kind: fc.constant('meterhall'),
    purpose: fc.constantFrom('measurement', 'advertising'),
  }),
  ladder: fc.record({
    name: words,
    steps: fc.uniqueArray(outcomeCode, { minLength: 2, maxLength: 4 }),
    tells: fc.constantFrom('one bids', 'what it adds'),
  }),
  qualified: fc.record({ way: fc.constantFrom(...qualifyingWays), outcome: outcomeCode }),
  making_steps: fc.record({ steps: fc.array(words, { maxLength: 3 }) }),
  outcome_codes: fc.record({
    beginnings: fc.array(fc.record({ code: fc.stringMatching(/^[A-Z]{2,4}$/), label: words }), { maxLength: 3 }),
    longest: fc.integer({ min: 2, max: 12 }),
  }),
};
