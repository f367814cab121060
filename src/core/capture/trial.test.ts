import { expect, it } from 'vitest';
import { linkPlan } from '../links';
import { firstPlan, tagRule } from '../plan';
import { fillRule, rules, start, valueRule } from './rules.fixture';
import type { Hit } from './schema';
import { trialLink, trialPages } from './trial';

const touch = {
  at: start,
  source: 'quillsearch',
  medium: 'paid-search',
  campaign: 'c',
  content: '',
  term: '',
  utmId: '',
  referrer: '',
  landing: 'l.example/',
  platform: 'quillsearch',
  clickId: 'QsTry',
};
const common = {
  release: 1,
  visitor: 'v',
  visit: 'w',
  referrer: '',
  address: 'https://l.example/fleet?x=1',
  kept: {
    works: true,
    first: touch,
    last: touch,
    clicks: [{ platform: 'quillsearch', clickId: 'QsTry', at: start }],
  },
};
const arrived = { ...common, id: '1', at: start, kind: 'arrived', navigation: 'navigate', why: 'click_id_new' } as Hit;
const fills = [
  { rule: 'a', field: 'click_id', near: '', state: 'filled' as const },
  { rule: 'b', field: 'source', near: 'sorce', state: 'near' as const },
];
const seen = {
  ...common,
  id: '2',
  at: start + 1,
  kind: 'forms_seen',
  forms: [{ form: 'test-ride', fields: [], fills }],
} as Hit;
const tried = { ...rules, fill: [fillRule({ id: 'a', field: 'click_id', reading: 'click_id' })] };

it('a trial shows page by page what is kept, once, and what each fill rule put into which form', () => {
  const [page] = trialPages([seen, arrived], tried, []);
  expect(page!.kept.map(({ words, value }) => `${words}: ${value}`)).toEqual([
    ...['the click ID of Quillsearch: QsTry', 'the source: quillsearch', 'the medium: paid-search'],
    ...['the campaign: c', 'the landing page: l.example/'],
  ]);
  expect(page!.forms).toEqual([
    {
      form: 'test-ride',
      isSent: false,
      fields: [
        { field: 'click_id', near: '', state: 'filled', value: 'QsTry' },
        { field: 'source', near: 'sorce', state: 'near', value: '' },
      ],
    },
  ]);
});

it('its link has made-up values for all that is kept, under the names that links are made with', () => {
  const tagCarry = [{ tag: 'utm_source', name: 'lark_src', written: true }];
  const keep = { ...rules.keep, values: [valueRule({ name: 'dealer' })] };
  const plan = { ...firstPlan(), tags: [tagRule('utm_source', 'Source'), tagRule('utm_content', 'Content')] };
  const link = trialLink(
    new URL('https://l.example/f?x=1#top'),
    linkPlan({ plan, platforms: [], capture: { ...rules, tagCarry } }, []),
    {
      ...rules,
      keep,
    },
    'abc',
  );
  expect(link).toBe(
    'https://l.example/f?x=1&lark_src=quillsearch&utm_content=try-content&qsid=Tryabc&dealer=try&avx_try=abc#top',
  );
});
