import { piiIn } from '../capture/pii';
import { checkNames, checkTags, type LinkPlan, type LinkProblem } from './check-tags';
import { readLanding, longestLink } from './landing';
import { pairsOf, partsOf, type LinkParts } from './link';
import { quoteValue } from '../quote-value';

export interface ReadLink extends LinkParts {
  problems: LinkProblem[];
}

const brokenEscape = /%(?![0-9a-f]{2})/i;

/** True where an escape is cut or says no text in UTF-8. */
function isBrokenText(raw: string): boolean {
  if (brokenEscape.test(raw)) return true;
  try {
    decodeURIComponent(raw.replace(/\+/g, ' '));
    return false;
  } catch {
    return true;
  }
}

/**
 * What is wrong with the address that a short link leads to. One without any UTM tag is a page like another: what comes
 * by it counts by its referrer, which is said once.
 */
export function destinationProblems(destination: string, plan: LinkPlan): string[] {
  const read = readLink(destination, plan);
  if (!read) return [];
  const isTagged = read.tags.some(([tag]) => tag.startsWith('utm_'));
  const problems = read.problems.filter(({ code }) => isTagged || code !== 'missing').map(({ words }) => words);
  return isTagged ? problems : ['It has no UTM tags: its clicks will count by their referrer.', ...problems];
}

/**
 * Reads any link back into its parts and names what is wrong with it.
 * @returns null where the text is no link at all
 */
export function readLink(text: string, plan: LinkPlan): ReadLink | null {
  const read = readLanding(text);
  if ('problem' in read) return null;
  const { url } = read;
  const names = plan.tags.map(({ tag }) => tag);
  const parts = partsOf(url, names, plan.names);
  const problems: LinkProblem[] = [];
  const add = (tag: string, code: LinkProblem['code'], words: string) =>
    problems.push({ tag, code, words, repaired: null });

  const pairs = pairsOf(url.search.slice(1));
  problems.push(...checkNames(plan, url.href));
  for (const name of names) {
    const times = pairs.filter((pair) => pair.name === name).length;
    if (times > 1) add(name, 'doubled', `${quoteValue(name)} is there ${times} times; the first counts.`);
  }
  for (const { raw, name, value } of pairs) {
    const meant = names.find((tag) => tag !== name && tag.toLowerCase() === name.toLowerCase());
    if (meant) add(name, 'name_letters', `${quoteValue(name)} is no tag; write ${quoteValue(meant)}.`);
    if (isBrokenText(raw)) add(name, 'encoding', `${quoteValue(raw)} has an escape that says nothing.`);
    if (!names.includes(name) && piiIn(value))
      add(name, 'personal', `${quoteValue(name)} contains personal data. Take it out of the link.`);
  }
  for (const { name } of pairsOf(url.hash.slice(1).replace(/^.*\?/, '')))
    if (names.includes(name)) add(name, 'after_hash', `${quoteValue(name)} is after the #, where no website reads it.`);
  if (/\?.*\?/.test(url.search))
    add('', 'question_marks', 'There are two question marks; the second belongs to a value.');
  if (/\s/.test(text.trim())) add('', 'spaces', 'There is a space in the link; some programs end it there.');
  const broken = new Set(problems.filter(({ code }) => code === 'encoding').map(({ tag }) => tag));
  problems.push(...checkTags(plan, parts.tags, parts.others).filter(({ tag }) => !broken.has(tag)));
  if (text.trim().length > longestLink)
    add('', 'long', `It has ${text.trim().length} characters; some programs cut links after ${longestLink}.`);
  return { ...parts, problems };
}
