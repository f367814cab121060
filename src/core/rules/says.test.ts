import { describe, expect, it } from 'vitest';
import { readingWords } from '../capture/readings';
import { fillRule, rules, valueRule } from '../capture/rules.fixture';
import { readingSchema } from '../capture/schema';
import { tagRule } from '../plan/first-plan';
import { ruleSentence, type RuleKindName, type RuleOf } from './index';
import { fill } from './fill';
import { optionsOf, partsIn, type Choice } from './says';

/** A rule with what its sentence reads. */
const says = <Kind extends RuleKindName>(kind: Kind, rule: RuleOf<Kind>, sentence: string) =>
  [ruleSentence(kind, rule), sentence] as const;
const visit = { visitMinutes: 30, ownHosts: ['larkmoor.localhost'], passThroughHosts: [] as string[] };
const channel = {
  medium: 'email',
  channel: 'Email',
  crmTypes: ['Letter', 'Mail series'],
  media: 'owned' as const,
  tracked: true,
  joins: 'in' as const,
};
const beginnings = [
  { code: 'FLT', label: 'Fleet' },
  { code: 'SHP', label: 'Shop' },
];
const part = (key: string, label: string, rest: object) => ({
  key,
  label,
  kind: 'word' as const,
  values: [],
  digits: 1,
  ...rest,
});

describe('a rule reads as a sentence', () => {
  it.each([
    says(
      'keep',
      { touchDays: 90, touchAge: 'renewed', utmLowerCase: true, setBy: 'page' },
      'The first and the last touch are kept 90 days, counted anew from each visit; UTM values are kept in lower case. Cookies are set by the page alone.',
    ),
    says(
      'keep',
      { touchDays: 1, touchAge: 'fixed', utmLowerCase: false, setBy: 'server' },
      'The first and the last touch are kept 1 day, counted from the touch itself; UTM values are kept as they arrive. Cookies are set by the page and the website’s own subdomain.',
    ),
    says(
      'click_id',
      {
        platform: 'quillsearch',
        parameter: 'qsid',
        alsoAs: [],
        days: 90,
        source: 'quillsearch',
        medium: 'paid-search',
      },
      'The click ID of Quillsearch comes as `qsid` and is kept 90 days from its click; without UTM tags it counts as source `quillsearch` and medium `paid-search`.',
    ),
    says(
      'click_id',
      { platform: 'tessaloop', parameter: 'tsl', alsoAs: [], days: 21, source: 'tessaloop', medium: '' },
      'The click ID of Tessaloop comes as `tsl` and is kept 21 days from its click; without UTM tags it counts as source `tessaloop` and medium none.',
    ),
    says(
      'click_id',
      { platform: 'tessaloop', parameter: 'tsl', alsoAs: [], days: 21, source: '', medium: '' },
      'The click ID of Tessaloop comes as `tsl` and is kept 21 days from its click.',
    ),
    says(
      'kept_value',
      valueRule({ name: 'lark_partner', which: 'first', lowerCase: true, longest: 12 }),
      'The first `lark_partner` is kept 90 days in the cookie `avx_lark_partner`, counted anew from each visit, in lower case: at most 12 of any characters.',
    ),
    says('visit', visit, 'A visit ends after 30 idle minutes. Own pages, never a source: `larkmoor.localhost`.'),
    says(
      'visit',
      { ...visit, passThroughHosts: ['pay.example'] },
      'A visit ends after 30 idle minutes. Own pages, never a source: `larkmoor.localhost`. Payment and sign-in hosts, no source either: `pay.example`.',
    ),
    says(
      'consent',
      { required: true, count: false },
      'Pages keep and send nothing before somebody agreed to measurement; “no” clears what is kept. People who did not agree are not counted, and platforms are told of nobody who did not agree to advertising. The website says what somebody chose by its event `avrix:consent`.',
    ),
    says(
      'consent',
      { required: false, count: false },
      'Pages keep and send without asking for consent; “no” clears what is kept. The website says what somebody chose by its event `avrix:consent`.',
    ),
    says(
      'pii',
      { names: [] },
      'Email addresses and telephone numbers are taken out of every address before anything is kept or sent.',
    ),
    says(
      'pii',
      { names: ['email', 'phone'] },
      'Email addresses and telephone numbers are taken out of every address before anything is kept or sent, and the values of `email`, `phone`.',
    ),
    says(
      'followed_form',
      { name: 'test-ride', words: 'Ask for a test ride', counts: 'enquiry' as const },
      'Each sending of the form `test-ride` is an enquiry, called Ask for a test ride.',
    ),
    says(
      'call_code',
      { element: '.call-code', pages: '/fleet' },
      'Show the reference code in `.call-code` on pages that begin with `/fleet`.',
    ),
    says(
      'no_customer',
      { networks: ['203.0.113.0/24'], mailDomains: [], hosts: ['staging.larkmoor.example'] },
      'Not customers: bots, and browsers marked by their link; people who come from `203.0.113.0/24`; what happens on `staging.larkmoor.example`.',
    ),
    says(
      'swap',
      {
        name: 'placements',
        rows: [{ value: 'dsp', gives: '', take: 'last_referrer_host' }],
        otherwise: { gives: '', take: 'itself' },
      },
      'The table “placements”: `dsp` becomes the referrer’s host; everything else stays as it is.',
    ),
    says(
      'elsewhere',
      { name: 'Bellhour', host: 'bellhour.example', kind: 'calendar', returns: 'hook', plain: [] },
      'Values go along to the calendar `bellhour.example`, called “Bellhour”; its back end tells Avrix, at once or by file.',
    ),
    says(
      'elsewhere',
      {
        name: 'Quiz',
        host: 'quiz.example',
        kind: 'form',
        returns: 'nothing',
        plain: [
          { name: 'src', reading: 'last_source', platform: '' },
          { name: 'key', reading: 'click_id', platform: 'quillsearch' },
        ],
      },
      'Values go along to the form `quiz.example`, called “Quiz”; nothing comes back; as plain text `src` is the source and `key` is the click ID of Quillsearch.',
    ),
    says(
      'source',
      { source: 'baker-weekly', mediums: ['partner'], fixed: ['utm_content=bw-04'] },
      '`baker-weekly` goes with `partner`; its links always have `utm_content=bw-04`.',
    ),
    says(
      'tag_carry',
      { tag: 'utm_source', name: 'lark_src', written: true },
      '`utm_source` is also read as `lark_src`; links are made with this name.',
    ),
    says(
      'tag',
      tagRule('utm_medium', 'Medium', { entry: 'picked', required: true, longest: 30, example: 'email' }),
      'Medium is `utm_medium` in links. It is picked from its values, in lower case, its words joined by -, at most 30 characters. Every link has it, for example `email`.',
    ),
    says(
      'tag',
      tagRule('year', 'Year', { pattern: '20\\d\\d', separator: '', letters: 'any', longest: 4 }),
      'Year is `year` in links. It is typed and fits `20\\d\\d`, in any case, its words joined by anything, at most 4 characters. A link may go without it.',
    ),
    says(
      'tag',
      tagRule('utm_campaign', 'Campaign', { named: true, letters: 'upper', separator: '_' }),
      'Campaign is `utm_campaign` in links. It is typed; it is a campaign name of the plan, in upper case, its words joined by _, at most 100 characters. A link may go without it.',
    ),
    says(
      'channel',
      channel,
      '`email` is Email in results, in the CRM Letter or Mail series; owned media, tracked. Shown as: Email in its source.',
    ),
    says(
      'channel',
      { ...channel, crmTypes: [], tracked: false, joins: 'on' },
      '`email` is Email in results, and nothing in the CRM; owned media, not tracked. Shown as: Email on its source.',
    ),
    says(
      'referrer',
      { host: 'a.example', channel: 'Partners' },
      'People who come from `a.example` without tags belong to Partners.',
    ),
    says(
      'alias',
      { tag: 'utm_medium', value: 'ppc', means: 'paid-search' },
      '`ppc` in `utm_medium` is read as `paid-search`.',
    ),
    says('alias', { tag: 'utm_medium', value: 'ppc', means: '' }, '`ppc` in `utm_medium` is left as it is.'),
    says(
      'naming',
      {
        pattern: '{m}-{y}q{n}-{l}',
        parts: [
          part('m', 'Market', { kind: 'listed', values: [{ value: 'uk', label: '' }] }),
          part('y', 'Year', { kind: 'digits', digits: 2 }),
          part('n', 'Quarter', { kind: 'digits' }),
          part('l', 'Line', {}),
        ],
      },
      'A campaign name is `‹Market›-‹Year›q‹Quarter›-‹Line›`: market one of `uk`, year 2 digits, quarter a digit and line one word.',
    ),
    says('naming', { pattern: '', parts: [] }, 'A campaign name is not put together from parts.'),
    says(
      'outcome_codes',
      { beginnings, longest: 6 },
      'An outcome’s code is `FLT` for Fleet or `SHP` for Shop, a hyphen, and what happened in 2 to 6 capital letters; its version and its words follow.',
    ),
  ])('%s', (sentence, wanted) => expect(sentence).toBe(wanted));

  it.each([
    [{}, 'The field `ref` of every form gets the click ID.'],
    [{ find: 'id' }, 'The field with the ID `ref` of every form gets the click ID.'],
    [{ find: 'label' }, 'The field labelled `ref` of every form gets the click ID.'],
    [{ find: 'selector', field: '.ref' }, 'The field at `.ref` of every form gets the click ID.'],
    [{ forms: ['a', 'b'], platform: 'quillsearch' }, 'The field `ref` of `a`, `b` gets the click ID of Quillsearch.'],
    [
      { pages: ['/fleet'], when: 'empty', otherwise: 'none', reading: 'last_campaign' },
      'The field `ref` of every form on pages that begin with `/fleet` gets the campaign, only when it is empty; where there is none, `none`.',
    ],
    [{ swap: 'gone' }, 'The field `ref` of every form gets the click ID through the table “gone”.'],
    [
      { reading: 'kept_value', platform: 'lark_partner' },
      'The field `ref` of every form gets the kept value lark_partner.',
    ],
  ] as const)('with %o', (rule, wanted) => {
    const given = fillRule({ id: 'r', field: 'ref', reading: 'click_id', ...(rule as object) });
    expect(ruleSentence('fill', given, { capture: rules })).toBe(wanted);
  });

  it('has a word for every reading', () => {
    expect(Object.keys(readingWords).sort()).toEqual([...readingSchema.options].sort());
  });
});

it('what is chosen and gone meanwhile can still be seen among what there is to choose', () => {
  const swap = partsIn(fill.says).find(({ key }) => key === 'swap') as Choice<RuleOf<'fill'>>;
  const rule = fillRule({ id: 'r', field: 'ref', reading: 'click_id', swap: 'gone' });
  expect(optionsOf(swap, rule, { capture: rules })).toEqual([
    ['', 'as it is', '–'],
    ['gone', 'through the table “gone”'],
  ]);
});
