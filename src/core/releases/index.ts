import type { CaptureRules } from '../capture/schema';
import type { OutcomeRule, TellingRule } from '../outcomes/schema';
import type { Release } from './schema';

export type { Release, ReleaseContent } from './schema';

/** The rules the snippet works by. */
export function captureRules(release: Release): CaptureRules {
  return release.content.capture;
}

/** The outcome that is the Qualified hop of enquiries by form. Throws where a release names one it does not hold. */
export function qualifiedOutcome(release: Release): OutcomeRule {
  const code = release.content.qualified.form;
  const rule = release.content.outcomes.find((o) => o.code === code);
  if (!rule) throw new Error(`release ${release.number} names ${code} as qualified but does not hold it`);
  return rule;
}

/** Which platforms are told of an outcome, and how. */
export function tellingRules(release: Release, outcome: string): TellingRule[] {
  return release.content.telling.filter((rule) => rule.outcome === outcome);
}

/** Where something came from, in words: "Paid search on Quillsearch", "Newsletter", "direct". */
export function originWords(release: Release, source: string, medium: string, referrer = ''): string {
  const { sources, mediums } = release.content.words;
  const from = sources.find((s) => s.source === source)?.words ?? source;
  const known = mediums.find((m) => m.medium === medium);
  const by = known?.words ?? medium;
  if (by && from) return by === from ? by : `${by} ${known?.joins ?? 'on'} ${from}`;
  if (by || from) return by || from;
  return referrer ? `Link on ${referrer.split('/')[0]}` : 'not known';
}
