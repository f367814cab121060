import type { OutcomeCodeRule } from './schema';

/**
 * What is wrong with an outcome's code by the plan's convention: a beginning of the plan, a hyphen, and what
 * happened in capital letters, such as `FLT-QUAL`. The version and the description stand beside it, never in it.
 * @returns '' where nothing is
 */
export function checkOutcomeCode(rule: OutcomeCodeRule, code: string): string {
  if (rule.beginnings.length === 0) return '';
  const [beginning = '', what = '', ...more] = code.split('-');
  const known = rule.beginnings.map((one) => one.code);
  if (!known.includes(beginning)) return `It must begin with ${known.join(', ')} and a hyphen.`;
  if (more.length > 0 || !/^[A-Z]{2,}$/.test(what) || what.length > rule.longest)
    return `After ${beginning}- it must have 2 to ${rule.longest} capital letters that say what happened.`;
  return '';
}
