import { describe, expect, it } from 'vitest';
import { fleetQualified } from './rule.fixture';
import { numberVersions } from './versions';

const none = new Map<string, number>();
const versionOf = (...given: Parameters<typeof numberVersions>) => numberVersions(...given)[0]!.version;
const rule = { ...fleetQualified, version: 3 };

describe('the version of an outcome', () => {
  it('stays where it is only called something else, whatever a draft says of it', () => {
    expect(versionOf([{ ...rule, version: 1, words: 'Else' }], [rule], none)).toBe(3);
    expect(versionOf([{ ...rule, worth: { ...rule.worth } }], [rule], none)).toBe(3);
  });

  it('is the next one where it means something else', () => {
    expect(versionOf([{ ...rule, clickDays: rule.clickDays - 1 }], [rule], none)).toBe(4);
    expect(versionOf([{ ...rule, worth: { kind: 'none' } }], [rule], new Map([[rule.code, 5]]))).toBe(6);
  });

  it('of a new code is the first, and of one that was counted once the next', () => {
    expect(versionOf([{ ...rule, version: 9 }], [], none)).toBe(1);
    expect(versionOf([rule], [], new Map([[rule.code, 2]]))).toBe(3);
  });
});
