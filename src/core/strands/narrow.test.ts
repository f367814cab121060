import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { belongsTo, compareClicks, makeBelonging, narrowClicks, type AccountClicks, type Landings } from '.';

const lower = (_: string, value: string) => value.toLowerCase();
const reported = [
  { campaign: 'Winterproof', id: '40318' },
  { campaign: 'longtail', id: '' },
];
const belonging = makeBelonging(lower, reported, [
  { platform: 'quillsearch', source: 'quillsearch' },
  { platform: 'tessaloop', source: 'tessaloop' },
]);
const landed = (rest: Partial<Landings> = {}): Landings => ({
  platform: 'quillsearch',
  source: 'quillsearch',
  campaign: 'winterproof',
  campaignId: '',
  landings: 1,
  ...rest,
});

describe('what arrived is of a campaign', () => {
  it.each([
    ['by its name, as names are read', { campaign: 'WINTERPROOF', campaignId: '' }, 'winterproof'],
    ['by its ID, where its name is none that is reported', { campaign: 'Winter', campaignId: '40318' }, 'winterproof'],
    ['by its ID in place of its name', { campaign: '40318', campaignId: '' }, 'winterproof'],
    ['by its name before its ID', { campaign: 'Longtail', campaignId: '40318' }, 'longtail'],
    ['of its own name, where nobody reports it', { campaign: 'Spring-Fair', campaignId: '7' }, 'spring-fair'],
    ['of none, without any', { campaign: '', campaignId: '' }, ''],
  ])('%s', (_, tags, campaign) => expect(belonging.campaignOf(tags)).toBe(campaign));
});

describe('what arrived is of a platform', () => {
  it.each([
    ['by its click ID, whatever its source', { platform: 'quillsearch', source: 'newsletter' }, 'quillsearch'],
    ['without one by its source', { platform: '', source: 'Tessaloop' }, 'tessaloop'],
    ['or of none', { platform: '', source: 'newsletter' }, ''],
  ])('%s', (_, tags, platform) => expect(belonging.platformOf(tags)).toBe(platform));
});

const tags = fc.record({
  platform: fc.constantFrom('', 'quillsearch', 'tessaloop'),
  source: fc.constantFrom('', 'quillsearch', 'Tessaloop', 'newsletter'),
  campaign: fc.constantFrom('', 'winterproof', 'WINTERPROOF', 'longtail', '40318', 'spring-fair'),
  campaignId: fc.constantFrom('', '40318', '7'),
  landings: fc.integer({ min: 1, max: 90 }),
});

it('each landing is in the line of one platform at most, and of one campaign at most', () =>
  fc.assert(
    fc.property(tags, (one) => {
      const campaigns = ['winterproof', 'longtail', 'spring-fair', '40318', '7'];
      const platforms = ['quillsearch', 'tessaloop'];
      const isIn = (to: { platform?: string; campaign?: string }) =>
        belongsTo(belonging, { platform: '', campaign: '', ...to })(one);
      expect(campaigns.filter((campaign) => isIn({ campaign })).length).toBeLessThanOrEqual(1);
      expect(platforms.filter((platform) => isIn({ platform })).length).toBeLessThanOrEqual(1);
      expect(isIn({})).toBe(true);
    }),
  ));

describe('clicks of a narrowed line', () => {
  const account: AccountClicks = {
    platform: 'quillsearch',
    source: 'quillsearch',
    campaigns: [
      { campaign: 'Winterproof', id: '40318', clicks: 10 },
      { campaign: 'longtail', id: '', clicks: 5 },
    ],
    landings: [landed({ landings: 7 }), landed({ campaign: 'longtail', landings: 5 })],
  };
  const social = landed({ platform: 'tessaloop', source: 'tessaloop', landings: 4 });
  const compare = (to: { platform?: string; campaign?: string }) =>
    compareClicks(
      ...narrowClicks(
        [account],
        [{ source: 'letter', campaign: 'winterproof', clicks: 3 }],
        [...account.landings, social, landed({ platform: '', source: 'letter', landings: 2 })],
        belonging,
        { platform: '', campaign: '', ...to },
      ),
      lower,
    );

  it.each([
    // 10 of the account and 3 of the short link; 7 and 2 of them landed, and 4 came from where nobody counts.
    ['of a campaign', { campaign: 'winterproof' }, { clicks: 13, missing: 4, surplus: 0, uncounted: 4 }],
    ['of a platform', { platform: 'quillsearch' }, { clicks: 15, missing: 3, surplus: 0, uncounted: 0 }],
    [
      'of a campaign on a platform',
      { campaign: 'winterproof', platform: 'quillsearch' },
      { clicks: 10, missing: 3, surplus: 0, uncounted: 0 },
    ],
    [
      'of a platform that reports none: not known',
      { platform: 'tessaloop' },
      { clicks: null, missing: 0, surplus: 0, uncounted: 4 },
    ],
    [
      'of a campaign that the account never reported: not known',
      { campaign: 'spring-fair' },
      { clicks: null, missing: 0, surplus: 0, uncounted: 0 },
    ],
  ])('%s', (_, to, wanted) => expect(compare(to)).toEqual(wanted));
});
