import { describe, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import { originWords, qualifiedOutcome, tellingRules, type Release } from '../../src/core/releases';
import { releaseContentSchema } from '../../src/core/releases/schema';

const content = releaseContentSchema.parse(
  larkmoorSetup({
    quillsearch: 'http://q.example',
    oakledger: 'http://o.example',
    key: (name: string) => name,
  } as never).release.content,
);
const release: Release = { business: 'b', number: 1, name: 'First set-up', note: '', content, madeAt: 0, madeBy: null };

describe('where something came from, in words', () => {
  it.each([
    ['quillsearch', 'paid-search', '', 'Paid search on Quillsearch'],
    ['larkmoor-letter', 'email', '', 'E-mail in the Larkmoor letter'],
    ['baker-weekly', 'PaidSocial', '', 'PaidSocial on Baker Weekly'],
    ['tessaloop', '', '', 'Tessaloop'],
    ['', 'email', '', 'E-mail'],
    ['', '', 'bakerweekly.example/cargo', 'Link on bakerweekly.example'],
    ['', '', '', 'not known'],
  ])('%s / %s / %s: %s', (source, medium, referrer, words) =>
    expect(originWords(release, source, medium, referrer)).toBe(words),
  );
});

describe('a release', () => {
  it('names the outcome that is Qualified, and who is told of it', () => {
    expect(qualifiedOutcome(release, 'form')?.code).toBe('FLT-QUAL');
    expect(tellingRules(release, 'FLT-QUAL').map((rule) => rule.platform)).toEqual(['quillsearch']);
    expect(tellingRules(release, 'FLT-ASK')).toEqual([]);
    expect(qualifiedOutcome({ ...release, content: { ...content, qualified: {} } }, 'form')).toBeNull();
  });

  it('that names an outcome it does not hold is a mistake that is said', () => {
    const broken = { ...release, content: { ...content, qualified: { form: 'FLT-NONE' } } };
    expect(() => qualifiedOutcome(broken, 'form')).toThrow(
      'release 1 names FLT-NONE as qualified but does not hold it',
    );
  });

  it('is refused with a rule that no browser keeps: over 400 days', () => {
    const long = structuredClone(content);
    long.capture.keep.touchDays = 401;
    expect(releaseContentSchema.safeParse(long).success).toBe(false);
  });
});
