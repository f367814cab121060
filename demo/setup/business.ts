import type { Places } from '../places';
import { larkmoorEvents } from './events';
import { larkmoorMail } from './mail';
import { larkmoorPlan } from './plan';

const fill = (field: string, reading: string, forms: string[] = [], swap = '') => ({
  id: `${field} ${forms.join(' ')}`.trim(),
  field,
  forms,
  reading,
  platform: '',
  swap,
  when: 'always',
});

/**
 * Larkmoor as its marketing-operations person set it up: what Avrix is given, never what it should make of it.
 *
 * @param faults false where the call-back form names its field as the CRM does
 */
export function larkmoorSetup(
  places: Pick<Places, 'quillsearch' | 'oakledger' | 'key'> & {
    wrenwick?: string;
    meterhall?: string;
    tessaloop?: string;
    smtp?: { host: string; port: number };
  },
  faults = true,
) {
  return {
    key: 'larkmoor',
    name: 'Larkmoor Cargo Bikes',
    timeZone: 'Europe/London',
    currency: 'GBP',
    websites: ['larkmoor.localhost', 'larkmoor-fleet.localhost'],
    accounts: [
      {
        key: 'quillsearch',
        kind: 'quillsearch',
        name: 'Quillsearch, Larkmoor Cargo Bikes',
        endpoint: places.quillsearch,
        settings: { timeZone: 'America/New_York', currency: 'USD', source: 'quillsearch', reports: 'yes' },
        secrets: { token: places.key('quillsearch token') },
      },
      ...(places.wrenwick
        ? [
            {
              key: 'wrenwick',
              kind: 'wrenwick',
              name: 'Wrenwick, Larkmoor shop',
              endpoint: places.wrenwick,
              settings: { source: 'wrenwick' },
              secrets: { token: places.key('wrenwick token') },
            },
          ]
        : []),
      ...(places.meterhall
        ? [
            {
              key: 'meterhall',
              kind: 'meterhall',
              name: 'Meterhall',
              endpoint: places.meterhall,
              settings: {},
              secrets: { token: places.key('meterhall key') },
            },
          ]
        : []),
      ...(places.tessaloop
        ? [
            {
              key: 'tessaloop',
              kind: 'tessaloop',
              name: 'Tessaloop, Larkmoor',
              endpoint: places.tessaloop,
              settings: { timeZone: 'UTC', currency: 'GBP', source: 'tessaloop' },
              secrets: { token: places.key('tessaloop key') },
            },
          ]
        : []),
      {
        key: 'oakledger',
        kind: 'oakledger',
        name: 'Oakledger',
        endpoint: places.oakledger,
        settings: {},
        secrets: { token: places.key('oakledger token'), webhookSecret: places.key('oakledger webhook secret') },
      },
    ],
    calls: {
      secret: places.key('larkmoor switchboard secret'),
      reading: {
        ...{ calls: '/call', number: '/id', dialled: '/to', caller: '/from' },
        ...{ startedAt: '/began', seconds: '/seconds', answered: '/answered', reference: '/code' },
      },
      numbers: [
        { number: '01632 960018', name: 'Fleet line', source: '', medium: '', campaign: '', content: '' },
        {
          ...{ number: '01632 960027', name: 'Cargo fair flyer', source: 'cargo-fair', medium: 'fair' },
          ...{ campaign: 'uk-27q1-fleet-winterproof', content: 'flyer' },
        },
      ],
    },
    ...(places.smtp ? { mail: larkmoorMail(places.smtp, places.key) } : {}),
    release: {
      name: 'First set-up',
      note: 'Both fleet forms, FLT-QUAL told to Quillsearch.',
      content: {
        capture: {
          keep: {
            touchDays: 90,
            touchAge: 'renewed',
            utmLowerCase: true,
            values: [
              {
                name: 'lark_partner',
                cookie: 'avx_lark_partner',
                days: 90,
                age: 'fixed',
                which: 'first',
                lowerCase: false,
                characters: 'words',
                longest: 12,
              },
            ],
            clickIds: [
              {
                platform: 'quillsearch',
                parameter: 'qsid',
                alsoAs: [],
                days: 90,
                source: 'quillsearch',
                medium: 'paid-search',
              },
              { platform: 'wrenwick', parameter: 'wwk', alsoAs: [], days: 45, source: 'wrenwick', medium: 'partner' },
              ...(places.tessaloop
                ? [{ platform: 'tessaloop', parameter: 'tsl', alsoAs: [], days: 21, source: 'tessaloop', medium: '' }]
                : []),
            ],
          },
          touch: {
            visitMinutes: 30,
            passThroughHosts: [],
            ownHosts: ['larkmoor.localhost', 'larkmoor-fleet.localhost'],
          },
          fill: [
            fill('click_id', 'click_id', ['test-ride', 'offer', 'configure']),
            fill(faults ? 'click_ref' : 'click_id', 'click_id', ['call-back']),
            fill('source', 'last_source'),
            fill('medium', 'last_medium'),
            fill('campaign', 'last_campaign'),
            fill('content', 'last_content'),
            fill('first_referrer', 'first_referrer'),
            fill('placement', 'last_source', ['test-ride'], 'placements'),
          ],
          swaps: [
            {
              name: 'placements',
              rows: [
                { value: 'display', gives: 'a banner', take: 'last_referrer_host' },
                { value: 'quillsearch', gives: 'search results', take: '' },
              ],
              otherwise: { gives: '', take: 'itself' },
            },
          ],
          elsewhere: [
            { name: 'Offers', host: 'larkmoor-fleet.localhost', kind: 'own_website', returns: 'restored' },
            {
              name: 'Bellhour',
              host: 'bellhour.localhost',
              kind: 'calendar',
              returns: 'thank_you',
              plain: [{ name: 'heard_of_us', reading: 'last_source', platform: '' }],
            },
            { name: 'Ask for a fitting', host: 'fitting.bellhour.localhost', kind: 'frame', returns: 'hook' },
          ],
          consent: { required: false },
          carry: [{ platform: 'quillsearch', name: 'lark_key' }],
          forms: [
            { name: 'test-ride', words: 'Ask for a test ride' },
            { name: 'call-back', words: 'Ask for a call back' },
          ],
          callCodes: [{ element: '.call-code', pages: '/' }],
          orders: [
            {
              name: 'shop',
              number: '/order/number',
              currency: '/order/currency',
              amounts: ['/order/total', '/order/delivery', '/order/tax', '/order/cost'],
            },
          ],
        },
        noCustomer: {
          networks: ['203.0.113.0/24'],
          mailDomains: ['larkmoor.example'],
          hosts: ['staging.larkmoor.localhost'],
        },
        events: larkmoorEvents({
          meterhall: places.meterhall !== undefined,
          tessaloop: places.tessaloop !== undefined,
        }),
        plan: larkmoorPlan(faults),
        crm: {
          account: 'oakledger',
          stages: { inOrder: ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed'], ended: ['Not this time'] },
          leadTokenField: 'avx_lead',
          fields: {
            click_id: 'click_id',
            source: 'source',
            medium: 'medium',
            campaign: 'campaign',
            content: 'content',
            first_referrer: 'first_referrer',
          },
        },
        outcomes: [
          {
            code: 'FLT-QUAL',
            version: 1,
            words: 'Fleet assessed',
            kind: 'enquiry',
            reachedBy: { kind: 'stage', stage: 'Fleet assessed' },
            worth: { kind: 'expected', field: 'lease_profit', winRate: { won: 1, of: 4 } },
            countedOnceFor: 'enquiry',
            clickDays: 80,
          },
          {
            code: 'SHP-PAID',
            version: 1,
            words: 'Shop order paid',
            kind: 'payment',
            reachedBy: { kind: 'order' },
            worth: { kind: 'realised', field: 'total', less: ['delivery', 'tax', 'cost'] },
            countedOnceFor: 'order',
            clickDays: 45,
          },
        ],
        telling: [
          { outcome: 'FLT-QUAL', platform: 'quillsearch', account: 'quillsearch', letsItBid: true, delayMinutes: 0 },
          ...(places.tessaloop
            ? [
                {
                  outcome: 'FLT-QUAL',
                  platform: 'tessaloop',
                  account: 'tessaloop',
                  as: 'Fleet assessed',
                  letsItBid: false,
                  delayMinutes: 0,
                },
              ]
            : []),
          { outcome: 'SHP-PAID', platform: 'quillsearch', account: 'quillsearch', letsItBid: false, delayMinutes: 0 },
          {
            outcome: 'SHP-PAID',
            platform: 'wrenwick',
            account: 'wrenwick',
            as: 'paid',
            letsItBid: false,
            delayMinutes: 0,
          },
        ],
        qualified: {
          ...{ form: 'FLT-QUAL', order: 'SHP-PAID' },
          ...(places.tessaloop ? { lead_form: 'FLT-QUAL' } : {}),
          ...(faults ? { call: 'FLT-QUAL' } : {}),
        },
      },
    },
  };
}
