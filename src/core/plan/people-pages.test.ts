import { expect, it } from 'vitest';
import { emptyCampaign } from './empty-campaign';
import { firstPlan, tagRule } from './first-plan';
import { peoplePages } from './people-pages';
import type { Plan } from './schema';

const values = [{ value: 'letter', label: 'the letter' }];
const plan: Plan = {
  ...firstPlan(),
  tags: [tagRule('utm_source', 'Source', { values }), tagRule('utm_content', 'Content')],
  sources: [{ source: 'letter', mediums: ['email'], fixed: ['utm_content=top'] }],
  making: { steps: ['Agree on it.', 'Make its links.'] },
};
const campaign = { ...emptyCampaign('GBP'), name: 'uk-27q1-spring', friendly: 'Spring', budget: '1200.50' };
const example = { url: 'https://l.example/?utm_source=letter', usedIn: 'mail' as const, place: 'top', owner: 'Priya' };
const counts = new Map([['utm_source', new Map([['letter', 9]])]]);

it('the workbook for people has a page for each tag, the steps, the campaigns and examples, in columns that are read', () => {
  const pages = new Map(
    peoplePages(plan, [campaign], [example], { counts, weeks: 13 }).map(({ name, rows }) => [name, rows]),
  );
  expect([...pages.keys()]).toEqual([
    ...['How to', 'The plan', 'Source', 'Content', 'Campaign names', 'Campaigns', 'Examples'],
  ]);
  expect(pages.get('How to')!.slice(1)).toEqual([
    ['1', 'Agree on it.'],
    ['2', 'Make its links.'],
  ]);
  expect(pages.get('Source')).toEqual([
    ['Value in links', 'Shown as', 'Goes with', 'Links always have', 'Arrived in 13 weeks'],
    ['letter', 'the letter', 'email', 'utm_content = top', '9'],
  ]);
  expect(pages.get('Content')![1]![0]).toContain('Content is utm_content in links.');
  expect(pages.get('Campaigns')![1]!.slice(0, 6)).toEqual([
    ...['Spring', 'uk-27q1-spring', 'win enquiries', '', '', '1200.50 GBP'],
  ]);
  expect(pages.get('Examples')![1]).toEqual([example.url, 'a mail', 'top', 'Priya']);
});
