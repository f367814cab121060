import { RE2JS } from 're2js';

/** Expressions that were compiled, by their text: the same few are held against thousands of values. */
const compiled = new Map<string, RE2JS>();
const mostCompiled = 500;

/**
 * A regular expression that runs in time which grows with the text alone, whatever both are (RE2's syntax: no look-around,
 * no back reference, few thousand repeats). People write patterns, and visitors the texts they are held against.
 * @throws Error that says in words what is wrong with it
 */
export function compileExpression(text: string): RE2JS {
  const known = compiled.get(text);
  if (known) return known;
  const expression = RE2JS.compile(text);
  if (compiled.size >= mostCompiled) compiled.clear();
  compiled.set(text, expression);
  return expression;
}

/** True for a value that fits a pattern as a whole; also where the pattern is none, for then it says nothing of any value. */
export function fitsPattern(pattern: string, value: string): boolean {
  try {
    return compileExpression(`^(?:${pattern})$`).testExact(value);
  } catch {
    return true;
  }
}

/** What keeps a pattern from being used, in words; '' where nothing does. */
export function patternProblem(pattern: string): string {
  try {
    compileExpression(pattern);
    return '';
  } catch (error) {
    return `it is no pattern: ${(error as Error).message.replace(/^error parsing regexp: /, '')}`;
  }
}
