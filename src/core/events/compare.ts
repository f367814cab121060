import { readNumber } from './numbers';
import type { Test } from './schema';

/** The longest text (UTF-16 units) that a pattern is held against: what people write as patterns must not hold up a page. */
export const longestForPattern = 300;

const compiled = new Map<string, RegExp | null>();

/** A pattern, compiled once; null where it is none. Which ones a rule may have is checked before it goes live. */
function expressionOf(pattern: string): RegExp | null {
  let expression = compiled.get(pattern);
  if (expression === undefined) {
    try {
      expression = new RegExp(pattern, 'u');
    } catch {
      expression = null;
    }
    compiled.set(pattern, expression);
  }
  return expression;
}

/** Whether a value passes a test. Letters count as they are written. */
export function passes(test: Test, value: string, wanted: string): boolean {
  switch (test) {
    case 'equals':
      return value === wanted;
    case 'begins':
      return value.startsWith(wanted);
    case 'ends':
      return value.endsWith(wanted);
    case 'contains':
      return value.includes(wanted);
    case 'one_of':
      return wanted.split(',').some((one) => one.trim() === value);
    case 'pattern':
      return expressionOf(wanted)?.test(value.slice(0, longestForPattern)) ?? false;
    case 'there':
      return value !== '';
    default: {
      const [is, limit] = [readNumber(value), readNumber(wanted)];
      return is !== null && limit !== null && (test === 'at_least' ? is >= limit : is <= limit);
    }
  }
}
