import { readFileSync } from 'node:fs';
import { captureRules } from '../../core/releases';
import type { KnownBusiness } from '../businesses';
import type { Releases } from '../releases/releases';

/** Serves the pasted line's two scripts: one that names the live release, and each release with the engine. */
export function makeSnippet(releases: Releases, engineFile: string) {
  const engine = readFileSync(engineFile, 'utf8');
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
        collect: `${origin}/collect/${business.key}`,
        rules: captureRules(await releases.numbered(business.id, number)),
      };
      return `(AVRIX_SETUP=>{${engine}})(${literal(setup)})`;
    },
  };
}
