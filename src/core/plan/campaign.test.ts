import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { campaignSchema, type Campaign } from './campaign';
import { compareCampaigns, type OutsideCampaign } from './compare-campaigns';

const campaign = (name: string, rest: Partial<Campaign> = {}): Campaign => ({
  name,
  friendly: name.toUpperCase(),
  stage: 'asking',
  startsOn: '',
  endsOn: '',
  budget: '',
  currency: 'GBP',
  owner: '',
  note: '',
  crmId: '',
  crmType: '',
  ...rest,
});
const outside = (one: Campaign): OutsideCampaign => ({ ...one });
const names = (rows: { campaign: Campaign }[]) => rows.map((row) => row.campaign.name);

describe('a campaign of the register', () => {
  const wrong = (rest: object) =>
    campaignSchema
      .safeParse({ ...campaign('a'), ...rest })
      .error?.issues.map(({ path, message }) => `${path.join('.')} ${message}`) ?? [];
  it.each([
    [{}, []],
    [{ startsOn: '2027-01-01', endsOn: '2027-01-01', budget: '1200.5' }, []],
    [{ name: '  ' }, ['name must have a tracking name']],
    [{ stage: 'sleeping' }, ['stage must be noticed, asking, buying, staying']],
    [{ startsOn: '2027-02-30' }, ['startsOn must be a day such as 2027-01-14, or nothing']],
    [{ startsOn: '2027-01-02', endsOn: '2027-01-01' }, ['endsOn must not be before it starts']],
    [{ budget: '1,200' }, ['budget must be an amount such as 1200 or 1200.50']],
    [{ budget: '12.345' }, ['budget must have at most 2 digits after the point in GBP']],
    [{ budget: '1200.50', currency: 'UGX' }, ['budget must have no digits after the point in UGX']],
    [{ budget: '12.345', currency: 'LYD' }, []],
    [{ currency: 'pounds' }, ['currency must be an ISO 4217 code such as GBP']],
  ])('%o: %j', (rest, found) => expect(wrong(rest)).toEqual(found));
});

describe('campaigns from a CRM or a file', () => {
  it('are matched by the CRM’s number first, then by tracking name', () => {
    const register = [campaign('a', { crmId: 'C-1' }), campaign('b')];
    const { fresh, changed, same } = compareCampaigns(
      register,
      [campaign('renamed', { crmId: 'C-1' }), campaign('b', { owner: 'Maud' }), campaign('c')].map(outside),
      false,
    );
    expect([names(fresh), same]).toEqual([['c'], 0]);
    expect(changed.map(({ key, changes }) => [key, changes])).toEqual([
      [
        'C-1',
        [
          { field: 'name', was: 'a', will: 'renamed' },
          { field: 'friendly', was: 'A', will: 'RENAMED' },
        ],
      ],
      ['b', [{ field: 'owner', was: '', will: 'Maud' }]],
    ]);
  });

  it('that are missing have vanished only where the list is whole, and only those of the CRM', () => {
    const register = [campaign('a', { crmId: 'C-1' }), campaign('by-hand')];
    expect(names(compareCampaigns(register, [], true).vanished)).toEqual(['a']);
    expect(compareCampaigns(register, [], false).vanished).toEqual([]);
  });

  it('that cannot be read are named, field by field; the others are compared', () => {
    const rows = [
      outside(campaign('good')),
      { ...outside(campaign('bad', { crmId: 'C-9' })), budget: 'much', startsOn: 'soon' },
      { ...outside(campaign('')), friendly: 'nameless' },
      outside(campaign('good')),
    ];
    const { fresh, refused } = compareCampaigns([], rows, false);
    expect(names(fresh)).toEqual(['good']);
    expect(refused.map(({ row, field }) => [row, field])).toEqual([
      ...[
        ['C-9', 'startsOn'],
        ['C-9', 'budget'],
        ['row 3', 'name'],
        ['good', 'name'],
      ],
    ]);
    expect(refused.at(-1)!.was).toBe('`good` is there twice');
  });

  const some = fc.uniqueArray(
    fc.record({ name: fc.stringMatching(/^[a-z]{1,6}$/), owner: fc.constantFrom('', 'Maud', 'Priya') }),
    { selector: ({ name }) => name, maxLength: 8 },
  );

  it('compared with themselves differ in nothing', () => {
    fc.assert(
      fc.property(some, (all) => {
        const register = all.map(({ name, owner }) => campaign(name, { owner }));
        expect(compareCampaigns(register, register.map(outside), true)).toEqual({
          fresh: [],
          changed: [],
          vanished: [],
          refused: [],
          same: register.length,
        });
      }),
    );
  });

  it('fall into new, changed and same without one being left out or counted twice', () => {
    fc.assert(
      fc.property(some, some, (before, now) => {
        const register = before.map(({ name, owner }) => campaign(name, { owner }));
        const rows = now.map(({ name, owner }) => outside(campaign(name, { owner })));
        const { fresh, changed, same } = compareCampaigns(register, rows, true);
        expect(fresh.length + changed.length + same).toBe(rows.length);
        for (const { campaign: one } of fresh) expect(register.some(({ name }) => name === one.name)).toBe(false);
      }),
    );
  });
});
