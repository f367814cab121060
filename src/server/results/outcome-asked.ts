import type { OutcomeRule } from '../../core/outcomes/schema';
import { waysInOf, type Release } from '../../core/releases';

/** The outcome that is asked for by its code, else the *Qualified* of the first way in, else the first one; null for none. */
export function outcomeAsked(release: Release, code: string): OutcomeRule | null {
  const { outcomes, qualified } = release.content;
  const usual = waysInOf(release).flatMap((way) => qualified[way] ?? [])[0];
  const find = (wanted: string | undefined) => outcomes.find((one) => one.code === wanted);
  return find(code) ?? find(usual) ?? outcomes[0] ?? null;
}
