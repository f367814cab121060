import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { scriptLiteral, snippetParts, snippetScript } from '../../core/capture/snippet-script';
import { captureRules } from '../../core/releases';
import type { KnownBusiness } from '../businesses';
import type { Releases } from '../releases/releases';

/** Serves the snippet's two scripts: one that names the live release, and each release with the engine and its parts. */
export function makeSnippet(releases: Releases, folder: string) {
  const read = (name: string) => readFileSync(join(folder, `${name}.js`), 'utf8');
  const loader = read('loader');
  const sources = new Map((['engine', ...snippetParts] as const).map((name) => [name, read(name)]));
  /** Names this engine in a release's address: browsers that hold the release with an older one ask for it anew. */
  const engine = createHash('sha256')
    .update([...sources.values()].join())
    .digest('hex')
    .slice(0, 8);

  return {
    /** The script that the snippet loads. */
    async loader(business: KnownBusiness, origin: string): Promise<string> {
      const { number } = await releases.live(business.id);
      const release = scriptLiteral(`${origin}/r/${business.key}/${number}-${engine}.js`);
      const stopped = scriptLiteral(`${origin}/stopped/${business.key}`);
      return `((AVRIX_SRC,AVRIX_STOPPED)=>{${loader}})(${release},${stopped})`;
    },

    /** One release: its rules and the engine, whichever engine was asked for. @throws AVX_RELEASE_UNKNOWN */
    async release(business: KnownBusiness, number: number, origin: string): Promise<string> {
      const rules = captureRules(await releases.numbered(business.id, number));
      const setup = { business: business.key, release: number, edge: origin, rules };
      return snippetScript(setup, (name) => sources.get(name)!);
    },
  };
}
