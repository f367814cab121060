import { fillRule, rules } from '../capture/rules.fixture';
import { freshEvent } from '../events/words';
import { firstPlan } from '../plan/first-plan';
import { fleetQualified } from '../outcomes/rule.fixture';
import type { ReleaseContent } from '../releases/schema';
import { nothingKnown, type KnownWorld } from './known';

/** Rules of Fleet for tests: a form that is filled and followed, an event told to Meterhall, an outcome to Quillsearch. */
export const content: ReleaseContent = {
  capture: {
    ...rules,
    carry: [{ platform: 'quillsearch', name: 'lark_key' }],
    fill: [
      fillRule({ id: 'a', field: 'click_id', reading: 'click_id' }),
      fillRule({ id: 'b', field: 'campaign', reading: 'last_campaign' }),
    ],
    forms: [
      { name: 'test-ride', words: 'Ask for a test ride', counts: 'enquiry' as const },
      { name: 'call-back', words: 'Ask for a call back', counts: 'enquiry' as const },
    ],
    orders: [
      {
        name: 'shop',
        number: '/order/number',
        currency: '/order/currency',
        amounts: ['/order/total'],
        sameMinutes: 60,
      },
    ],
  },
  plan: firstPlan(),
  crmWrites: [],
  crm: {
    account: 'crm',
    leadTokenField: 'avx_lead',
    fields: { click_id: 'click_id', campaign: 'campaign' },
    stages: { inOrder: ['Asked', 'Fleet assessed', 'Offer'], ended: ['Not this time'] },
  },
  noCustomer: { networks: [], mailDomains: [], hosts: [] },
  events: {
    readings: [
      { id: 'bikes', words: 'Bikes', from: 'field', name: 'bikes', attribute: '', as: 'number', unit: '', swap: '' },
    ],
    events: [
      {
        ...freshEvent(),
        name: 'enquiry_sent',
        words: 'Enquiry sent',
        cues: [{ kind: 'sends', part: 'path', test: 'equals', text: 'test-ride', amount: 0 }],
        conditions: [],
        onceFor: 'lead_token',
        reads: ['bikes'],
      },
      {
        ...freshEvent(),
        name: 'order_paid',
        words: 'Order paid',
        cues: [{ kind: 'orders', part: 'path', test: 'equals', text: '', amount: 0 }],
        conditions: [],
        onceFor: 'order',
        reads: [],
      },
    ],
    wires: [
      {
        event: 'enquiry_sent',
        account: 'meterhall',
        kind: 'meterhall',
        named: [
          { text: 'fleet/ask/', reading: '' },
          { text: '', reading: 'bikes' },
        ],
        fields: [],
        by: 'server',
        purpose: 'measurement',
        how: 'told',
        from: '',
      },
    ],
    presses: true,
  },
  platforms: [],
  crms: [],
  outcomes: [fleetQualified],
  telling: [
    {
      outcome: 'FLT-QUAL',
      platform: 'quillsearch',
      account: 'quillsearch',
      as: '',
      letsItBid: true,
      delayMinutes: 60,
      firstLook: false,
      whose: 'platform',
      percent: 100,
      purpose: 'advertising',
      secondKey: 'none',
      how: 'told',
      from: '',
    },
  ],
  ladders: [],
  goals: [],
  qualified: { form: 'FLT-QUAL' },
};

const fields = (...names: string[]) => names.map((name) => ({ name, hidden: name !== 'bikes' }));

export const world: KnownWorld = {
  ...nothingKnown('http://larkmoor.localhost'),
  forms: [
    {
      form: 'test-ride',
      path: '/fleet/test-ride',
      fields: fields('click_id', 'campaign', 'avx_lead', 'bikes'),
      found: [],
    },
    { form: 'call-back', path: '/fleet/call-back', fields: fields('click_ref', 'campaign', 'avx_lead'), found: [] },
  ],
  presses: [
    {
      path: '/fleet',
      press: {
        tag: 'a',
        id: '',
        name: '',
        link: 'http://larkmoor.localhost/fleet/test-ride',
        text: 'Ride one',
        data: [],
      },
    },
  ],
  sendsOn: {
    'http://larkmoor.localhost/go/rain': { to: 'http://larkmoor.localhost/fleet?utm_campaign=rain', wins: 'link' },
    'http://larkmoor.localhost/go/old': { to: 'http://larkmoor.localhost/fleet', wins: 'neither' },
  },
  withoutSnippet: ['larkmoor.localhost/fleet/bare'],
  crmFields: [
    { name: 'click_id', words: 'Click ID', length: null },
    { name: 'campaign', words: 'Campaign', length: 18 },
    { name: 'avx_lead', words: 'Lead token', length: null },
  ],
  dealAmounts: { lease_profit: { minor: 216_000, currency: 'GBP' } },
  accounts: [
    {
      key: 'quillsearch',
      name: 'Quillsearch, Larkmoor',
      kind: 'quillsearch',
      state: 'ready',
      currency: 'GBP',
      hasOpener: false,
    },
    { key: 'meterhall', name: 'Meterhall', kind: 'meterhall', state: 'ready', currency: '', hasOpener: false },
  ],
};
