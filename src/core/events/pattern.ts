import safe from 'safe-regex2';
import { patternProblem } from '../plan/pattern';

/**
 * Endless repeats of a pattern: with more of them a page could wait noticeably on a text of 300 characters. One that may
 * begin anywhere in the text is tried at each place, which counts as another one.
 */
const mostRepeats = (pattern: string): number => (pattern.startsWith('^') ? 3 : 2);

/**
 * What keeps a pattern from running in pages and on the server alike, in words; '' where nothing does. It must be one for
 * both (RE2's syntax, and the browser's with the flag u), and none whose time could explode: no repeat within a repeat,
 * few endless ones.
 */
export function pagePatternProblem(pattern: string): string {
  const problem = patternProblem(pattern);
  if (problem) return problem;
  try {
    new RegExp(pattern, 'u');
  } catch (error) {
    return `browsers do not take it: ${(error as Error).message.replace(/^Invalid regular expression: /, '')}`;
  }
  if (!safe(pattern)) return 'a repeat in it is repeated itself, which could hold up a page';
  const endless = pattern.replace(/\\.|\[(?:\\.|[^\]])*\]/g, '.').match(/[*+]|\{\d+,\}/g) ?? [];
  const most = mostRepeats(pattern);
  return endless.length > most
    ? `it has ${endless.length} endless repeats, which could hold up a page; have at most ${most}`
    : '';
}
