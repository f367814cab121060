/**
 * The key of a business in addresses, from its name: lower case letters, digits and hyphens, at most 30 of them, and
 * another one than those that are taken.
 */
export function businessKey(name: string, taken: ReadonlySet<string>): string {
  const plain = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 30)
    .replace(/-+$/, '');
  const key = plain.length >= 2 ? plain : `business${plain && `-${plain}`}`;
  for (let n = 1; ; n++) {
    const one = n === 1 ? key : `${key}-${n}`;
    if (!taken.has(one)) return one;
  }
}
