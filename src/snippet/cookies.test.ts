import { afterEach, describe, expect, it, vi } from 'vitest';
import { arrive, nothingKept } from '../core/capture';
import { day, rules, start } from '../core/capture/rules.fixture';
import { keep, keptNow } from './cookies';

const setup = { business: 'larkmoor', release: 1, edge: '', rules };
const ids = { visitor: '01978b50-0000-4000-8000-000000000001', visit: '01978b50-0000-4000-8000-000000000002' };
const address = 'http://larkmoor.localhost/fleet?utm_source=letter&qsid=Q1';

/** A browser's cookies as a page has them; `takes` false where they are switched off. */
function browse({ hostname = 'larkmoor.localhost', protocol = 'http:', takes = true } = {}) {
  const jar = new Map<string, string>();
  const written: string[] = [];
  vi.stubGlobal('location', { hostname, protocol });
  vi.stubGlobal('document', {
    get cookie() {
      return [...jar].map(([name, value]) => `${name}=${value}`).join('; ');
    },
    set cookie(text: string) {
      written.push(text);
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(text) ?? [];
      if (!takes) return;
      if (/Max-Age=0(;|$)/.test(text)) jar.delete(name);
      else jar.set(name, value);
    },
  });
  return { jar, written };
}
const arrived = () =>
  arrive(nothingKept(), { at: start, address, referrer: '', navigation: 'navigate' }, rules, ids).kept;

afterEach(() => vi.unstubAllGlobals());

describe('what is kept', () => {
  it('is read back as it was written', () => {
    browse();
    const kept = arrived();
    expect(keep(kept, start, setup)).toEqual(kept);
    expect(keptNow(setup)).toEqual(kept);
  });

  it('stands on the registrable domain, for the whole website, and only on secure pages of a secure website', () => {
    const plain = browse({ hostname: 'shop.larkmoor.localhost' });
    keep(arrived(), start, setup);
    expect(plain.written.every((text) => /; Path=\/; SameSite=Lax; Domain=larkmoor\.localhost$/.test(text))).toBe(true);
    const secure = browse({ protocol: 'https:' });
    keep(arrived(), start, setup);
    expect(secure.written.every((text) => text.endsWith('; Secure'))).toBe(true);
  });

  it('stays on its own host where the page is on another domain', () => {
    const { written } = browse({ hostname: 'preview.example' });
    keep(arrived(), start, setup);
    expect(written.join()).not.toContain('Domain=');
  });

  it('is said not to be kept where the browser takes no cookie', () => {
    browse({ takes: false });
    expect(keep(arrived(), start, setup)).toEqual(nothingKept());
    expect(keptNow(setup)).toEqual(nothingKept());
  });

  it('is cleared whole, whatever was there', () => {
    const { jar } = browse();
    keep(arrived(), start, setup);
    jar.set('theirs', 'stays');
    keep(nothingKept(), start + day, setup);
    expect([...jar.keys()]).toEqual(['theirs']);
  });

  it('that was tampered with is dropped, and nothing is thrown', () => {
    const { jar } = browse();
    keep(arrived(), start, setup);
    jar.set('avx_last', '1~%E0%A4%A');
    jar.set('avx_visitor', 'someone');
    expect(keptNow(setup)).toMatchObject({ visitor: null, last: null, first: { source: 'letter' } });
  });
});
