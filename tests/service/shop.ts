import { expect } from 'vitest';
import { arrive, nothingKept, type Hit, type Kept } from '../../src/core/capture';
import { captureRules } from '../../src/core/releases';
import { idAt } from './place';
import { larkmoor, move, outside, place, rest, time } from './walks';

/* The shop: browsers that come by ads and partners, pages that say orders, and forms by which people subscribe. */

let numbered = 0;
let browsers = 0;

/** A browser that arrives at addresses and pages that say orders. */
export function makeBrowser(advertising?: 'yes' | 'no') {
  const n = (browsers += 1);
  const visitor = idAt(time, 50_000 + n);
  let kept: Kept = nothingKept();
  const hits: Hit[] = [];
  const common = (address: string) => ({
    id: idAt(time, 60_000 + (numbered += 1)),
    at: time,
    release: 1,
    visitor,
    visit: kept.visitor?.visitId ?? visitor,
    address,
    referrer: '',
    kept: { works: true, first: kept.first, last: kept.last, clicks: kept.clicks },
    ...(advertising ? { consent: { measurement: 'yes' as const, advertising } } : {}),
  });
  return {
    visitor,
    async lands(address: string) {
      const release = await place.services.releases.live(larkmoor.id);
      const rules = captureRules(release);
      const arrival = { at: time, address, referrer: '', navigation: 'navigate' } as const;
      const arrived = arrive(kept, arrival, rules, { visitor, visit: visitor });
      kept = arrived.kept;
      const { number } = release;
      hits.push({
        ...common(address),
        release: number,
        kind: 'arrived',
        navigation: 'navigate',
        why: arrived.decision.because,
      });
      move(time + 60_000);
    },
    says(
      number: string,
      amounts: Record<string, string> = { total: '129.00', delivery: '6.00', tax: '21.50', cost: '41.50' },
    ) {
      const said = Object.entries(amounts).map(([name, amount]) => ({ name, amount }));
      const address = `http://larkmoor.localhost/order-received?order=${number}`;
      hits.push({ ...common(address), kind: 'ordered', number, currency: 'GBP', amounts: said });
      move(time + 60_000);
    },
    /** Sends a form of a release; returns the lead token. */
    signsUp(form: string, release: number): string {
      const leadToken = idAt(time, 70_000 + (numbered += 1));
      const sent = { kind: 'form_sent' as const, form, leadToken, fields: ['avx_lead'], fills: [] };
      hits.push({ ...common('http://larkmoor.localhost/care/start'), release, ...sent });
      move(time + 60_000);
      return leadToken;
    },
    /** Sets an event of a release off, which takes something along. */
    does(event: string, reads: Record<string, string>, release: number): void {
      const taken = Object.entries(reads).map(([reading, value]) => ({ reading, value }));
      const what = { kind: 'event' as const, event, key: idAt(time, 80_000 + (numbered += 1)), cue: 0, reads: taken };
      hits.push({ ...common('http://larkmoor.localhost/guide/thanks'), release, ...what });
      move(time + 60_000);
    },
    /** What it did arrives, and nothing is followed yet. */
    async sends() {
      expect(
        await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits: hits.splice(0) })),
      ).toEqual([]);
      await place.services.spoolWriter.drain();
    },
    async hands() {
      await this.sends();
      await rest();
      // Told after a moment: what is due by now.
      move(time + 60_000);
      await rest();
    },
  };
}
/** Where a click on an ad or a partner's link leads. */
export const clickOn = async (service: 'wrenwick' | 'quillsearch') => {
  const path = service === 'wrenwick' ? '/out/pedal-post' : '/click/uk-27q1-fleet-winterproof.hill-video';
  return (await outside[service].app.request(path)).headers.get('location')!;
};
