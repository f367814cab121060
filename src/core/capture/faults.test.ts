import { describe, expect, it } from 'vitest';
import {
  arrivalsSentence,
  cappedFaults,
  findingFaults,
  foldFindings,
  formFaults,
  idleFaults,
  quarantineFaults,
  type CountedFinding,
  withoutSeenPages,
  stoppedFaults,
} from './faults';
import type { FindingKind } from './findings';
import type { FormProblem, JudgedForm } from './forms-seen';
import { fillRule, rules, start } from './rules.fixture';

const counted = (
  kind: FindingKind,
  name: string,
  times: number,
  more: Partial<CountedFinding> = {},
): CountedFinding => ({
  kind,
  name,
  times,
  page: 'larkmoor.localhost/fleet',
  campaign: 'c1',
  detail: '',
  lastAt: start,
  ...more,
});
const wordsOf = (...rows: CountedFinding[]) => findingFaults(foldFindings(rows)).map(({ what, mend }) => [what, mend]);

describe('what arrivals show', () => {
  it('is one fault for each kind and name, with its pages and campaigns, the commonest first', () => {
    const rows = [
      counted('click_id_gone', 'qsid', 2, { campaign: 'c2', page: 'larkmoor.localhost/shop', lastAt: start + 5 }),
      counted('click_id_gone', 'qsid', 7),
      counted('click_id_gone', 'qsid', 1, { campaign: 'c3' }),
    ];
    expect(findingFaults(foldFindings(rows))).toEqual([
      {
        id: 'click_id_gone qsid',
        what: '10 arrivals from paid clicks came without `qsid`: their browsers take it out.',
        mend: 'Put a carry name into the links of `c1` and 2 more, which no browser knows.',
        pages: ['larkmoor.localhost/fleet', 'larkmoor.localhost/shop'],
        campaigns: ['c1', 'c2', 'c3'],
        times: 10,
        lastAt: start + 5,
        found: { kind: 'click_id_gone', name: 'qsid' },
      },
    ]);
  });

  it('is told with the one thing to do, that which costs most first', () => {
    const told = wordsOf(
      counted('pii', 'email', 3, { detail: 'mail' }),
      counted('pii', 'tel', 1, { detail: 'telephone' }),
      counted('own_link_tagged', 'banner', 1),
      counted('placeholder', 'utm_content', 5, { detail: '~ad-name~' }),
      counted('carry_differs', 'lark_key', 2),
      counted('click_id_odd', 'qsid', 4),
    );
    expect(told.map(([what]) => what)).toEqual([
      'In 5 arrivals the platform left `~ad-name~` unfilled in `utm_content`.',
      '4 arrivals brought something in `qsid` that looks like no click ID.',
      '3 arrivals carried a mail address or a name in `email`. It was taken out before anything was kept.',
      'In 2 arrivals `lark_key` said another click ID than the platform’s own name; the platform’s holds.',
      'A link between your own pages is tagged with the medium `banner`; it was followed 1 time.',
      '1 arrival carried a telephone number in `tel`. It was taken out before anything was kept.',
    ]);
    expect(told.every(([, mend]) => /^[A-Z].*\.$/.test(mend!))).toBe(true);
  });

  it('is no fault where a carry name saved a click ID', () => {
    expect(wordsOf(counted('carried', 'lark_key', 9))).toEqual([]);
  });
});

describe('what forms show', () => {
  const form = (problems: FormProblem[], words = 'Ask for a call back'): JudgedForm => ({
    form: 'call-back',
    words,
    pages: ['larkmoor.localhost/fleet/call-back'],
    lastAt: start,
    fields: [],
    problems,
  });

  it.each<[FormProblem, string, string]>([
    [
      { code: 'near', rule: 'r', field: 'click_id', near: 'click_ref' },
      'it has the hidden field `click_ref`, the rule looks for `click_id`: nothing is filled.',
      'Rename the field to `click_id`, or the rule’s field to `click_ref`.',
    ],
    [
      { code: 'missing', rule: 'r', field: 'source' },
      'the rule’s field `source` is not there.',
      'Add a hidden field `source` to the form `call-back`.',
    ],
    [
      { code: 'unfilled', field: 'utm_term', reading: 'last_term' },
      'nothing fills the hidden field `utm_term`.',
      'Fill it with the term.',
    ],
    [
      { code: 'unfilled', field: 'session', reading: null },
      'nothing fills the hidden field `session`.',
      'Say what belongs in it, or take it out of the form.',
    ],
    [
      { code: 'unread', field: 'click_ref', reading: 'click_id', crm: 'click_id' },
      'it sends the click ID as `click_ref`; the CRM reads `click_id`.',
      'Rename the field and its rule to `click_id`.',
    ],
    [
      { code: 'changed', field: 'campaign', crm: 'campaign', how: 'cut at 18 characters', times: 18, of: 20 },
      'the CRM’s field `campaign` does not hold what was sent: cut at 18 characters, 18 of the last 20 times.',
      'Look at the length and the rules of the CRM’s field `campaign`.',
    ],
    [
      { code: 'ignored', field: 'placement', reading: 'last_referrer_host', times: 3, of: 3 },
      'the CRM has no field for `placement`: what it carries ends with the form.',
      'Add a field `placement` to the CRM, or take it out of the form.',
    ],
    [
      { code: 'no_token' },
      'it has no hidden field `avx_lead`: its enquiries can be joined to their visits by guess only.',
      'Add a hidden field `avx_lead`, left empty.',
    ],
  ])('%o has its words', (problem, what, mend) => {
    expect(formFaults([form([problem])])).toMatchObject([
      {
        what: `The form “Ask for a call back”: ${what}`,
        mend,
        times: null,
        pages: ['larkmoor.localhost/fleet/call-back'],
      },
    ]);
  });

  it('of one that nobody follows is told under its name', () => {
    expect(formFaults([form([{ code: 'no_token' }], '')])[0]!.what).toMatch(/^The form `call-back`: /);
  });

  it('is a rule that matches none of them', () => {
    expect(idleFaults([fillRule({ id: 'x', field: 'gone', reading: 'click_id' })])).toMatchObject([
      { id: 'idle x', what: 'The rule for the field `gone` matches no form that was seen.' },
    ]);
  });
});

describe('browsers that forget visitors', () => {
  const capped = [{ browser: 'WebKit', soon: 38, strangers: 13 }];
  it('are a fault while the page alone sets cookies', () => {
    expect(cappedFaults(capped, rules).map(({ what, times }) => [what, times])).toEqual([
      [
        'Browsers with the engine `WebKit` forget visitors after 7 days: 38 came back sooner, none later, where about 13 were to be expected.',
        null,
      ],
    ]);
    expect(cappedFaults(capped, { ...rules, keep: { ...rules.keep, setBy: 'server' } })).toEqual([]);
  });
});

describe('a page that told of nothing', () => {
  it('is no fault where it told others of itself', () => {
    const rows = [
      counted('page_silent', '', 3, { page: 'l.example/a' }),
      counted('page_silent', '', 2, { page: 'l.example/b' }),
    ];
    const [fault] = findingFaults(foldFindings(withoutSeenPages(rows, new Set(['l.example/a']))));
    expect([fault!.pages, fault!.times]).toEqual([['l.example/b'], 2]);
  });
});

describe('the list behind a fault', () => {
  const asked = { kind: 'click_id_gone', find: '' } as const;
  const [found] = foldFindings([counted('click_id_gone', 'qsid', 7)]);
  it('opens with what is wrong and what mends it', () => {
    expect(arrivalsSentence(found, asked).title).toBe(
      '7 arrivals from paid clicks came without qsid: their browsers take it out.',
    );
    expect(arrivalsSentence(found, { ...asked, find: 'shop' }).title).toMatch(/Shown are those, matching “shop”\.$/);
  });
  it('says where nothing shows it any more, and what a carry name did', () => {
    expect(arrivalsSentence(undefined, asked).title).toBe('No arrival shows it any more.');
    const [carried] = foldFindings([counted('carried', 'lark_key', 2)]);
    expect(arrivalsSentence(carried, { kind: 'carried', find: '' }).title).toBe(
      '2 arrivals had their click ID from lark_key.',
    );
  });
});

describe('what was kept apart', () => {
  it.each([
    ['body', 'a page sent more than 32 KB at once', 1, 'A page sent more than 32 KB at once; it could not be taken.'],
    [
      'body',
      'a page sent more than 32 KB at once',
      3,
      'A page sent more than 32 KB at once, 3 times; it could not be taken.',
    ],
    ['hit', 'too long', 1, '1 hit could not be stored and is not counted: `too long`.'],
    ['visitor', 'too long', 2, '2 visitors could not be worked out and are not counted: `too long`.'],
  ] as const)('a %s: %s, %i', (kind, reason, n, what) => {
    expect(quarantineFaults([{ kind, reason, n, lastAt: start }])).toMatchObject([{ what, times: n, lastAt: start }]);
  });
});

it('pages whose content policy stops the snippet are one fault for each thing that is to be added', () => {
  const stop = (page: string, directive: 'connect-src' | 'trusted-types', wanted: string, lastAt: number) => ({
    page,
    directive,
    wanted,
    lastAt,
  });
  const faults = stoppedFaults([
    stop('l.example/a', 'connect-src', 'https://t.l.example', 5),
    stop('l.example/b', 'connect-src', 'https://t.l.example', 3),
    stop('l.example/a', 'trusted-types', 'avrix', 4),
  ]);
  expect(faults.map(({ what, mend, pages, lastAt }) => [what, mend, pages.length, lastAt])).toEqual([
    [
      'The content policy of 2 pages stops the snippet: `connect-src` does not name `https://t.l.example`.',
      'Add `https://t.l.example` to `connect-src` of the page’s policy.',
      2,
      5,
    ],
    [
      'The content policy of 1 page stops the snippet: `trusted-types` does not name `avrix`.',
      'Add `avrix` to `trusted-types` of the page’s policy.',
      1,
      4,
    ],
  ]);
});
