import { describe, expect, it } from 'vitest';
import { carries } from './carries';
import { rules } from './rules.fixture';
import type { Elsewhere } from './schema';

const place = (change: Partial<Elsewhere>): Elsewhere => ({
  name: 'Offers',
  host: 'offers.example',
  kind: 'form',
  returns: 'hook',
  plain: [],
  ...change,
});
const holds = (change: Partial<Elsewhere>) => carries(place(change), rules).map((one) => one.holds);

describe('what a place outside can carry', () => {
  it('is everything on a website of one’s own with the line', () => {
    expect(holds({ host: 'larkmoor.localhost', kind: 'own_website', returns: 'restored' })).toEqual([
      true,
      true,
      true,
      true,
    ]);
  });
  it.each(['thank_you', 'hook'] as const)('is the answer, but no cookie, where it comes back by %s', (returns) => {
    expect(holds({ returns })).toEqual([true, false, true, true]);
  });
  it('is the values alone where nothing comes back', () => {
    expect(holds({ returns: 'nothing' })).toEqual([true, false, false, true]);
  });
  it('is nothing before consent where it is asked for, and says so', () => {
    const asked = { ...rules, consent: { required: true, count: false } };
    expect(carries(place({}), asked).at(-1)!.what).toMatch(/^Before somebody agreed/);
  });
});
