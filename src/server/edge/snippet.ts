import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pageRules, scriptLiteral, snippetParts, snippetScript } from '../../core/capture/snippet-script';
import type { TriedRules } from '../capture/trials';
import type { ReleaseContent } from '../../core/releases';
import type { KnownBusiness } from '../businesses';
import type { Openers } from '../events/openers';
import type { Releases } from '../releases/releases';

/** Serves the snippet's two scripts: one that names the live release, and each release with the engine and its parts. */
export function makeSnippet(releases: Releases, openers: Openers, folder: string) {
  const read = (name: string) => readFileSync(join(folder, `${name}.js`), 'utf8');
  const [loader, trial, point, see] = [read('loader'), read('trial'), read('point'), read('see')];
  const sources = new Map((['engine', ...snippetParts] as const).map((name) => [name, read(name)]));
  /** Names this engine in a release's address: browsers that hold the release with an older one ask for it anew. */
  const engine = mark([...sources.values()].join());

  /** Where the openers are that a release's pages may need; most releases need none. */
  const openersOf = async (business: KnownBusiness, { events: { wires }, platforms }: ReleaseContent) =>
    wires.some(({ by }) => by !== 'server') ? openers.of(business.id, platforms) : {};
  const rulesOf = async (business: KnownBusiness, content: ReleaseContent) =>
    pageRules(content, await openersOf(business, content));

  return {
    /** The script that the snippet loads. */
    async loader(business: KnownBusiness, origin: string): Promise<string> {
      const { number, content } = await releases.live(business.id);
      // Openers stand in no release: where pages may need them, their addresses are part of its own.
      const needed = await openersOf(business, content);
      const opened = Object.keys(needed).length > 0 ? `-${mark(JSON.stringify(needed))}` : '';
      const release = scriptLiteral(`${origin}/r/${business.key}/${number}-${engine}${opened}.js`);
      const stopped = scriptLiteral(`${origin}/stopped/${business.key}`);
      const trials = scriptLiteral(`${origin}/try/${business.key}/`);
      return `((AVRIX_SRC,AVRIX_STOPPED,AVRIX_TRY)=>{${loader}})(${release},${stopped},${trials})`;
    },

    /**
     * Rules for a browser that tries them and sees through its pages: what it tells goes to the trial's own door. One that has ended, or
     * never was, gives the browser back what it kept, and loads the live release.
     */
    async trial(business: KnownBusiness, tried: TriedRules | null, origin: string): Promise<string> {
      const live = await releases.live(business.id);
      const known = { business: business.key, release: live.number, edge: origin };
      const setup = { ...known, ...(await rulesOf(business, live.content)) };
      const script = `${origin}/r/${business.key}/${live.number}-${engine}.js`;
      const given = scriptLiteral({ token: tried?.tab ?? '', live: setup, script });
      const begins = `((AVRIX_TRIAL)=>{${trial}})(${given});`;
      if (!tried) return begins;
      // What is stored in the browser goes by the business's key: by this one a trial's stays apart.
      // Nothing is told to destinations in a trial.
      const apart = { business: `${business.key}~try`, edge: `${origin}/try/${tried.tab}` };
      const rules = { ...known, ...apart, ...pageRules(tried.content), seen: tried.seen };
      return begins + snippetScript(rules, (name) => sources.get(name)!, [see]);
    },

    /** What a tab works by in which somebody points: no engine, so that nothing of it is counted. */
    async pointing(business: KnownBusiness, token: string, origin: string): Promise<string> {
      const { number } = await releases.live(business.id);
      const live = `${origin}/r/${business.key}/${number}-${engine}.js`;
      const given = scriptLiteral({ token: token.slice(1), door: `${origin}/point/${business.key}`, live });
      return `((AVRIX_POINT)=>{${point}})(${given})`;
    },

    /** One release: its rules and the engine, whichever engine was asked for. @throws AVX_RELEASE_UNKNOWN */
    async release(business: KnownBusiness, number: number, origin: string): Promise<string> {
      const { content } = await releases.numbered(business.id, number);
      const known = { business: business.key, release: number, edge: origin };
      const setup = { ...known, ...(await rulesOf(business, content)) };
      return snippetScript(setup, (name) => sources.get(name)!);
    },
  };
}

/** Eight digits by which a text is told from others. */
const mark = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 8);
