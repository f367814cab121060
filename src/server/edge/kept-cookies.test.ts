import { describe, expect, it } from 'vitest';
import { arrive, nothingKept, parseCookieText, readKept, writeKept } from '../../core/capture';
import { day, rules, start } from '../../core/capture/rules.fixture';
import { keptCookies } from './kept-cookies';

const arrival = {
  at: start,
  address: 'https://larkmoor.localhost/?qsid=Q1',
  referrer: '',
  navigation: 'navigate',
} as const;
const { kept } = arrive(nothingKept(), arrival, rules, { visitor: crypto.randomUUID(), visit: crypto.randomUUID() });
const sent = writeKept(kept, start, rules)
  .map(({ name, value }) => `${name}=${value}`)
  .join('; ');
const host = 't.larkmoor.localhost:4300';

describe('cookies that the website’s own subdomain sets again', () => {
  it('hold what came, for the whole website and as long as their rules say', () => {
    const cookies = keptCookies(sent, host, rules, start + day, false);
    expect(readKept(parseCookieText(cookies.map((one) => one.split(';')[0]).join('; ')), rules)).toEqual(kept);
    expect(cookies.every((one) => one.endsWith('; Path=/; SameSite=Lax; Domain=larkmoor.localhost'))).toBe(true);
    const clicks = cookies.find((one) => one.startsWith('avx_clicks='))!;
    expect(clicks).toContain(`Max-Age=${89 * 86_400};`);
  });

  it.each([
    ['to no host of the website', sent, 'avrix-edge.localhost:4300'],
    ['to a host that only ends alike', sent, 'notlarkmoor.localhost'],
    ['without any of ours', 'theirs=1', host],
    ['with one that was tampered with', 'avx_visitor=someone', host],
  ])('are none where they came %s', (_, header, to) => {
    expect(keptCookies(header, to, rules, start, false)).toEqual([]);
  });

  it('are for secure pages only where the edge is', () => {
    expect(keptCookies(sent, host, rules, start, true)[0]).toMatch(/; Secure$/);
  });
});
