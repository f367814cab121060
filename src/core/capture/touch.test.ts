import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { rules, start } from './rules.fixture';
import { decideTouch, isOwnLinkTagged, type Arrival } from './touch';

const table = readFileSync('docs/touches.md', 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('| `'))
  .map((line) =>
    line
      .split('|')
      .slice(1, -1)
      .map((cell) => cell.trim().replace(/^`|`$/g, ''))
      .map((cell) => (cell === '-' ? '' : cell)),
  );

describe('the worked examples of docs/touches.md', () => {
  it('are there', () => expect(table.length).toBeGreaterThan(12));

  it.each(table)(
    '%s from “%s” by %s',
    (path, referrer, navigation, starts, because, source, medium, campaign, clickId) => {
      const arrival = {
        at: start,
        address: `http://larkmoor.localhost:4310${path}`,
        referrer: referrer!,
        navigation: navigation as 'navigate',
      };
      const decision = decideTouch(arrival, [{ platform: 'quillsearch', clickId: 'Qs-old', at: 1 }], rules);
      expect(decision.because).toBe(because);
      expect(decision.touch !== null).toBe(starts === 'yes');
      const { touch } = decision;
      expect([touch?.source ?? '', touch?.medium ?? '', touch?.campaign ?? '', touch?.clickId ?? '']).toEqual([
        source,
        medium,
        campaign,
        clickId,
      ]);
    },
  );
});

describe('a touch', () => {
  const at = (address: string, referrer = '') =>
    decideTouch({ at: start, address, referrer, navigation: 'navigate' }, [], rules);

  it('keeps the landing page and the referrer without their queries, which may hold personal data', () => {
    const { touch } = at('http://larkmoor.localhost/fleet?qsid=a&email=x@y.example', 'https://w.example/a?token=1');
    expect(touch).toMatchObject({ landing: 'larkmoor.localhost/fleet', referrer: 'w.example/a' });
  });

  it('never alters a click ID', () => {
    expect(at('http://larkmoor.localhost/?qsid=AbC%2BdE%20').touch?.clickId).toBe('AbC+dE ');
  });

  it('takes no medium where the click ID does not prove payment', () => {
    expect(at('http://larkmoor.localhost/?tsl=9').touch).toMatchObject({ source: 'tessaloop', medium: '' });
  });

  it('names campaign values on a link between own pages as the website’s fault', () => {
    const own = 'http://larkmoor.localhost/';
    const follow = (address: string, referrer: string, navigation: Arrival['navigation'] = 'navigate') =>
      isOwnLinkTagged({ at: 1, address, referrer, navigation }, rules);
    expect(follow(`${own}?utm_source=x`, own)).toBe(true);
    expect(follow(own, own)).toBe(false);
    expect(follow(`${own}?utm_source=x`, 'https://w.example/')).toBe(false);
    expect(follow(`${own}?utm_source=x`, own, 'reload')).toBe(false);
  });

  it('takes control characters out of UTM values and cuts them at 200 characters', () => {
    const { touch } = at(`http://larkmoor.localhost/?utm_source=a%0Ab&utm_campaign=${'x'.repeat(300)}`);
    expect(touch?.source).toBe('ab');
    expect(touch?.campaign).toHaveLength(200);
  });
});
