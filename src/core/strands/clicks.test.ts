import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareClicks, type AccountClicks, type Landings, type ReadValue, type ShortLinkClicks } from './clicks';

const landed = (landings: number, rest: Partial<Landings> = {}): Landings => ({
  platform: 'quillsearch',
  source: 'quillsearch',
  campaign: 'c1',
  campaignId: '',
  landings,
  ...rest,
});
const reported = (clicks: number, campaign = 'c1', id = '') => ({ campaign, id, clicks });
const account = (campaigns: AccountClicks['campaigns'], landings: Landings[]): AccountClicks => ({
  platform: 'quillsearch',
  source: 'quillsearch',
  campaigns,
  landings,
});
const asIs: ReadValue = (_, value) => value;
const lower: ReadValue = (_, value) => value.toLowerCase();
/** One account whose days are the business's own. */
const compare = (
  campaigns: AccountClicks['campaigns'],
  landings: Landings[],
  read = asIs,
  shortLinks: ShortLinkClicks[] = [],
) => compareClicks([account(campaigns, landings)], shortLinks, landings, read);

describe('clicks against landings', () => {
  it.each<[string, ReturnType<typeof compare>, object]>([
    ['of a campaign', compare([reported(10)], [landed(7)]), { clicks: 10, missing: 3, surplus: 0, uncounted: 0 }],
    ['fewer than landed', compare([reported(5)], [landed(7)]), { clicks: 5, missing: 0, surplus: 2, uncounted: 0 }],
    [
      'of a campaign named in capitals, where values are kept in lower case',
      compare([reported(10, 'UK-27q1-Fleet')], [landed(9, { campaign: 'uk-27q1-fleet' })], lower),
      { missing: 1, uncounted: 0 },
    ],
    [
      'of a campaign named in capitals, where values are kept as they came: not the same',
      compare([reported(10, 'UK'), reported(4, 'uk')], [landed(9, { campaign: 'uk' }), landed(2, { campaign: 'UK' })]),
      { missing: 8, surplus: 5, uncounted: 0 },
    ],
    [
      'of a campaign under its alias',
      compare([reported(10, 'uk-fleet')], [landed(9, { campaign: 'uk fleet' })], (_, value) => value.replace(' ', '-')),
      { missing: 1, uncounted: 0 },
    ],
    [
      'of a campaign that is known by its ID only',
      compare([reported(10, 'Fleet, renamed', '40318')], [landed(9, { campaign: 'fleet', campaignId: '40318' })]),
      { missing: 1, uncounted: 0 },
    ],
    [
      'of a campaign whose ID stands in place of its name',
      compare([reported(10, 'Fleet', '40318'), reported(3, 'other')], [landed(9, { campaign: '40318' })]),
      { missing: 4, uncounted: 0 },
    ],
    [
      'with a click ID belong to its platform whatever their tags say',
      compare([reported(100)], [landed(60), landed(30, { source: 'letter' })]),
      { missing: 10, uncounted: 0 },
    ],
    [
      'of what is known on one side only: one group',
      compare([reported(10, 'a'), reported(20, 'b')], [landed(9, { campaign: 'a' }), landed(15, { campaign: '' })]),
      { clicks: 30, missing: 6, surplus: 0, uncounted: 0 },
    ],
    [
      'of another platform, or of no platform at all: they join',
      compare(
        [reported(10)],
        [landed(8), landed(5, { platform: 'tessaloop' }), landed(3, { platform: '', source: 'letter' })],
      ),
      { missing: 2, uncounted: 8 },
    ],
    [
      'without a click ID belong to the account by their source',
      compare([reported(10)], [landed(6), landed(3, { platform: '' })]),
      { missing: 1, uncounted: 0 },
    ],
    [
      'that no campaign without landings is left for: they join',
      compare([reported(10, 'a')], [landed(9, { campaign: 'a' }), landed(4, { campaign: 'z' })]),
      { missing: 1, surplus: 0, uncounted: 4 },
    ],
  ])('%s', (_, comparison, wanted) => expect(comparison).toMatchObject(wanted));

  it('are compared in the days of the account, whose days begin later than the business’s', () => {
    const inItsDays = account([reported(10)], [landed(9)]);
    const { missing, surplus, uncounted } = compareClicks([inItsDays], [], [landed(14)], asIs);
    expect([missing, surplus, uncounted]).toEqual([1, 0, 0]);
  });

  it('are none where nobody reports any: every landing joins', () => {
    expect(compareClicks([], [], [landed(7)], asIs)).toEqual({ clicks: null, missing: 0, surplus: 0, uncounted: 7 });
  });

  it('of short links count for campaigns that no account reports', () => {
    const short = (clicks: number, source: string, campaign: string) => ({ source, campaign, clicks });
    const printed = landed(4, { platform: '', source: 'fair', campaign: 'qr' });
    const links = [short(6, 'fair', 'qr'), short(50, 'quillsearch', 'c1'), short(2, 'Fair', 'QR')];
    expect(compare([reported(10)], [landed(9), printed], lower, links)).toEqual({
      clicks: 18,
      missing: 1 + 4,
      surplus: 0,
      uncounted: 0,
    });
  });

  it('of two accounts of one platform go to the account that knows the campaign', () => {
    const all = [landed(4, { campaign: 'a' }), landed(5, { campaign: 'b' })];
    const both = [account([reported(6, 'a')], all), account([reported(7, 'b')], all)];
    expect(compareClicks(both, [], all, asIs)).toEqual({ clicks: 13, missing: 4, surplus: 0, uncounted: 0 });
  });
});

describe('whatever is reported and lands', () => {
  const name = fc.constantFrom('a', 'A', 'b', 'c', '7');
  const landing = fc.record({
    platform: fc.constantFrom('', 'quillsearch', 'tessaloop'),
    source: fc.constantFrom('quillsearch', 'Quillsearch', 'letter', ''),
    campaign: fc.constantFrom('a', 'b', 'c', 'z', ''),
    campaignId: fc.constantFrom('', '7'),
    landings: fc.nat(50),
  });
  const campaigns = fc.array(
    fc.record({ campaign: name, id: fc.constantFrom('', '7'), clicks: fc.integer({ min: 1, max: 60 }) }),
    {
      minLength: 1,
      maxLength: 4,
    },
  );
  const shortLinks = fc.array(
    fc.record({
      source: fc.constantFrom('letter', 'quillsearch'),
      campaign: name,
      clicks: fc.integer({ min: 1, max: 20 }),
    }),
    {
      maxLength: 3,
    },
  );

  it('landings are those that clicks explain, a surplus, and those that join: Clicked − lost + surplus + joined = Landed', () => {
    fc.assert(
      fc.property(campaigns, fc.array(landing, { maxLength: 8 }), shortLinks, (own, landings, links) => {
        const { clicks, missing, surplus, uncounted } = compare(own, landings, lower, links);
        const all = landings.reduce((sum, one) => sum + one.landings, 0);
        expect(clicks! - missing + surplus + uncounted).toBe(all);
        expect(Math.min(missing, surplus, uncounted)).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 1000 },
    );
  });
});
