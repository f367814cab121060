/** Why an address cannot be a landing page; `fix` says what would be right. */
export interface AddressProblem {
  code: 'empty' | 'no_address' | 'scheme' | 'no_host' | 'credentials';
  was: string;
  fix: string;
}

/** Longer links are cut by some programs that pass them on. */
export const longestLink = 2000;

/**
 * Reads a landing page by the WHATWG URL standard. What lacks a scheme is taken as https; hosts of other scripts come
 * out in their ASCII form.
 * @returns the address, or what is wrong with it
 */
export function readLanding(input: string): { url: URL } | { problem: AddressProblem } {
  const text = input.trim();
  const problem = (code: AddressProblem['code'], was: string, fix: string) => ({ problem: { code, was, fix } });
  if (text === '') return problem('empty', 'it is empty', 'Give the address of the page that people land on.');
  const scheme = /^([a-z][a-z0-9+.-]*):(?!\d)/i.exec(text)?.[1]?.toLowerCase();
  if (scheme && scheme !== 'http' && scheme !== 'https')
    return problem('scheme', `it begins with ${scheme}:`, 'A landing page begins with https:// or http://.');
  const completed = scheme ? text : `https://${text.replace(/^\/\//, '')}`;
  let url: URL;
  try {
    url = new URL(completed);
  } catch {
    return problem('no_address', 'it is no address', 'Give one such as larkmoor.example/fleet.');
  }
  // The standard reads a number as an IPv4 address: 2027 as 0.0.7.235.
  const typed = /^[a-z]+:[/\\]*(?:[^@/?#\\]*@)?([^/?#:\\]*)/i.exec(completed)?.[1] ?? '';
  if (/^[\d.]+$/.test(url.hostname) && url.hostname !== typed)
    return problem('no_host', `“${typed}” is a number, not a host`, 'Give one such as larkmoor.example.');
  if (!url.hostname.includes('.') && url.hostname !== 'localhost')
    return problem('no_host', `“${url.hostname}” is no host`, 'Give one such as larkmoor.example.');
  if (url.username || url.password)
    return problem('credentials', 'it holds a name or password', 'Take out what is before the @.');
  return { url };
}
