/** Digits and letters that are not taken for one another when they are read out. */
const letters = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
const heard: Record<string, string> = { O: '0', I: '1', L: '1' };
/** The last digits of a visitor's ID that a code stands for: 32 random bits. */
export const codeDigits = 8;
/** What is left over when the digits are divided by it stands in the code too, so that most that are misheard are noticed. */
const checked = 8;
const checkOf = (value: number) => value % 7;

/**
 * The reference code that a page shows a visitor beside a telephone number, such as `3K7-M2QX`: it stands for the end of the
 * visitor's ID, so that nothing has to be stored for it.
 *
 * @param visitor a UUID
 */
export function callCode(visitor: string): string {
  const value = parseInt(visitor.slice(-codeDigits), 16);
  let rest = value * checked + checkOf(value);
  let code = '';
  for (let place = 0; place < 7; place++) {
    code = letters[rest % 32]! + code;
    rest = Math.floor(rest / 32);
  }
  return `${code.slice(0, 3)}-${code.slice(3)}`;
}

/**
 * The end of the visitor's ID that a code stands for, in hexadecimal digits; null for what is no code, or one of which a
 * letter was misheard. Letter case, hyphens and spaces are no difference.
 */
export function visitorEnd(code: string): string | null {
  const plain = code.toUpperCase().replace(/[\s-]/g, '');
  if (plain.length !== 7) return null;
  let rest = 0;
  for (const letter of plain) {
    const value = letters.indexOf(heard[letter] ?? letter);
    if (value < 0) return null;
    rest = rest * 32 + value;
  }
  const value = Math.floor(rest / checked);
  if (value >= 2 ** 32 || rest % checked !== checkOf(value)) return null;
  return value.toString(16).padStart(codeDigits, '0');
}
