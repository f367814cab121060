import type { ReleaseContent } from '../releases/schema';
import { carryOut } from './carry-out';
import type { KnownWorld } from './known';
import { readLine } from './steps';
import type { Trait } from './traits';
import { makeWalker, type Walk } from './walker';

/** How long (ms) a visitor takes from one step to the next. */
const between = 20_000;

/**
 * Walks a pretend visitor through the lines, by the release's rules, in a world as it was really seen. Nothing is sent.
 * @param begins ms
 */
export function walk(
  texts: readonly string[],
  has: readonly Trait[],
  content: ReleaseContent,
  world: KnownWorld,
  begins: number,
): Walk {
  const walker = makeWalker(has, content, world, begins);
  const { walked } = walker;
  const read = texts.map((text) => ({ text, read: readLine(text) }));
  const lastSaid = read.findLastIndex(({ read: one }) => 'step' in one && /send|order/.test(one.step.does));
  read.forEach(({ text, read: one }, at) => {
    const line = walker.begin(text);
    if ('problem' in one) line.problem = one.problem;
    else {
      line.problem = carryOut(walker, one.step);
      line.at = Math.max(line.at, walked.now);
      walked.now += between;
    }
    const isLast = at === (lastSaid < 0 ? read.length - 1 : lastSaid);
    if (isLast && has.includes('says_no_later') && walked.hits.length > 0) walker.refuse();
  });
  return walked;
}
