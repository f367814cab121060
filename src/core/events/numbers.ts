/** What separates thousands beside a point or comma: spaces of all widths, apostrophes. */
const between = /[\s\u00a0\u2009\u202f'’]/g;

/**
 * The number that a text says, as people of several countries write it: "£1,249.50", "1.249,50 €", "12 bikes"; null where
 * it says none. The last of point and comma parts the decimals. One that stands alone before exactly three digits
 * separates thousands, unless a lone 0 stands before it.
 */
export function readNumber(text: string): number | null {
  const found = /-?\d[\d.,\s\u00a0\u2009\u202f'’]*/.exec(text);
  if (!found) return null;
  const digits = found[0].replace(between, '').replace(/[.,]+$/, '');
  const at = Math.max(digits.lastIndexOf('.'), digits.lastIndexOf(','));
  const mark = digits.charAt(at);
  const isOnly = at >= 0 && digits.indexOf(mark) === at && !/[.,]/.test(digits.slice(0, at));
  const isThousands = isOnly ? /^-?(?!0[.,])\d{1,3}[.,]\d{3}$/.test(digits) : digits.split(mark).length > 2;
  const [whole, part] = at < 0 || isThousands ? [digits, ''] : [digits.slice(0, at), digits.slice(at + 1)];
  return Number(`${whole.replace(/[.,]/g, '')}.${part || 0}`);
}
