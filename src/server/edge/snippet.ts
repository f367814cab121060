import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { captureRules } from '../../core/releases';
import type { KnownBusiness } from '../businesses';
import type { Releases } from '../releases/releases';

/** Serves the pasted line's two scripts: one that names the live release, and each release with the engine. */
export function makeSnippet(releases: Releases, folder: string) {
  const [engine, elsewhere] = ['engine.js', 'elsewhere.js'].map((file) => readFileSync(join(folder, file), 'utf8'));
  const literal = (value: unknown) => JSON.stringify(value).replace(/</g, '\\u003c');

  return {
    /** The script the pasted line loads. */
    async loader(business: KnownBusiness, origin: string): Promise<string> {
      const { number } = await releases.live(business.id);
      const src = literal(`${origin}/r/${business.key}/${number}.js`);
      return `(d=>{const s=d.createElement('script');s.async=true;s.src=${src};d.head.append(s)})(document)`;
    },

    /** One release: its rules and the engine. Never changes. @throws AVX_RELEASE_UNKNOWN */
    async release(business: KnownBusiness, number: number, origin: string): Promise<string> {
      const setup = {
        business: business.key,
        release: number,
        edge: origin,
        rules: captureRules(await releases.numbered(business.id, number)),
      };
      const part = setup.rules.elsewhere.length > 0 ? `${elsewhere}AVRIX_SETUP.elsewhere=AVRIX_ELSEWHERE;` : '';
      return `(AVRIX_SETUP=>{${part}${engine}})(${literal(setup)})`;
    },
  };
}
