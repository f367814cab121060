import { piiIn } from '../capture/pii';
import { checkValue, type Plan } from '../plan';
import { problemWords } from '../plan/words';
import { readLanding, longestLink } from './landing';
import { pairsOf, partsOf, type LinkParts } from './link';
import { placeholdersIn } from './placeholders';
import { quoteValue } from '../quote-value';

/** What is wrong with a link; `repaired` is the link's value that would be right, where one is known. */
export interface LinkProblem {
  /** The tag or query name it concerns, '' for the link as a whole. */
  tag: string;
  code:
    | 'doubled'
    | 'name_letters'
    | 'value'
    | 'missing'
    | 'personal'
    | 'encoding'
    | 'after_hash'
    | 'question_marks'
    | 'spaces'
    | 'long';
  words: string;
  repaired: string | null;
}

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

/** The problems of a link's tags by the plan, values that a platform fills in left aside. */
export function checkTags(plan: Plan, tags: [string, string][]): LinkProblem[] {
  const given = new Map(tags);
  return plan.tags.flatMap((rule): LinkProblem[] => {
    const value = given.get(rule.tag) ?? '';
    if (placeholdersIn(value).length > 0) return [];
    const { problems, repaired } = checkValue(plan, rule, value);
    if (problems.length === 0) return [];
    const words =
      problems[0] === 'missing'
        ? `${problemWords('missing', rule)}.`
        : `${rule.name} ${quoteValue(value)}: ${problems.map((problem) => problemWords(problem, rule)).join(', ')}.`;
    const code = problems[0] === 'missing' ? 'missing' : problems.includes('personal') ? 'personal' : 'value';
    return [{ tag: rule.tag, code, words, repaired }];
  });
}

/**
 * Reads any link back into its parts and names what is wrong with it.
 * @returns null where the text is no link at all
 */
export function readLink(text: string, plan: Plan): ReadLink | null {
  const read = readLanding(text);
  if ('problem' in read) return null;
  const { url } = read;
  const names = plan.tags.map(({ tag }) => tag);
  const parts = partsOf(url, names);
  const problems: LinkProblem[] = [];
  const add = (tag: string, code: LinkProblem['code'], words: string) =>
    problems.push({ tag, code, words, repaired: null });

  const pairs = pairsOf(url.search.slice(1));
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
  problems.push(...checkTags(plan, parts.tags).filter(({ tag }) => !broken.has(tag)));
  if (text.trim().length > longestLink)
    add('', 'long', `It has ${text.trim().length} characters; some programs cut links after ${longestLink}.`);
  return { ...parts, problems };
}
