import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { generate } from '../../demo/generator/journeys';
import { sizes } from '../../demo/generator/sizes';
import type { Answer, Places } from '../../demo/places';
import { isVisit, makeReplay } from '../../demo/replay';
import { larkmoorSetup } from '../../demo/setup/business';
import { larkmoorWork } from '../../demo/setup/work';
import type { Hit } from '../../src/core/capture';
import { cappedBrowsers, type Returns } from '../../src/core/capture/capped';
import { foldFindings, withoutSeenPages, type CountedFinding } from '../../src/core/capture/faults';
import { pageOf } from '../../src/core/capture/address';
import { snippetScript } from '../../src/core/capture/snippet-script';
import { openShortLink } from '../../src/core/links';
import { rulesOfContent } from '../../src/core/releases';
import { releaseContentSchema } from '../../src/core/releases/schema';
import { deriveVisitor, type DerivedVisitor, type RecordedHit } from '../../src/core/strands';
import { isBot } from '../../src/server/capture/bots';
import { browserEngineOf } from '../../src/server/capture/browser';
import { makeLarkmoor } from '../../standins/larkmoor';
import { makeQuillsearch } from '../../standins/quillsearch';
import { makeWrenwick } from '../../standins/wrenwick';
import { readSurroundings } from '../../standins/shared/surroundings';

const end = Date.parse('2027-02-15T17:00:00Z');
const day = 86_400_000;
const site = 'http://larkmoor.localhost:5900';
const line = 'http://t.larkmoor.localhost:4300/b/larkmoor.js';

/** Every visitor of a demo's thirteen months, played through the served script and derived, without a database. */
async function play(size: 'small' | 'clean') {
  const { faults } = sizes[size];
  const folder = mkdtempSync(join(tmpdir(), 'demo-'));
  const around = readSurroundings({
    STANDINS_PORT: '5900',
    STANDINS_DATA: folder,
    STANDINS_SECRET: 's'.repeat(20),
    STANDINS_SCRIPT: line,
    STANDINS_FAULTS: faults ? 'yes' : 'no',
  });
  const larkmoor = makeLarkmoor(around);
  const quillsearch = makeQuillsearch(around);
  const wrenwick = makeWrenwick(around);
  const setup = larkmoorSetup(
    { quillsearch: around.originOf('quillsearch'), oakledger: around.originOf('oakledger'), key: around.key },
    faults,
  );
  const content = releaseContentSchema.parse(setup.release.content);
  const served = { business: 'larkmoor', release: 1, edge: 'http://edge.localhost', rules: content.capture };
  const script = snippetScript(served, (name) => readFileSync(`dist/snippet/${name}.js`, 'utf8'));
  const release = 'http://t.larkmoor.localhost:4300/r/larkmoor/1.js';
  const sent: { agent: string; body: string }[] = [];
  const said = (status: number, body: string, location = ''): Answer => ({ status, body, location });

  const places = {
    larkmoor: site,
    quillsearch: around.originOf('quillsearch'),
    oakledger: around.originOf('oakledger'),
    async ask(url: string) {
      if (url === line) return said(200, `x("${release}")`);
      if (url === release) return said(200, script);
      const answer = await larkmoor.app.request(url);
      return said(answer.status, await answer.text(), answer.headers.get('location') ?? '');
    },
    wrenwick: around.originOf('wrenwick'),
    standins: (name: string, body: object) =>
      Promise.resolve((name === 'partner-clicks' ? wrenwick : quillsearch).replays![name]!(body)),
    avrix(_name: string, { pages }: { pages: typeof sent }) {
      sent.push(...pages);
      return Promise.resolve({ refused: [] });
    },
    edgeAt(_at: number, path: string) {
      const { destination } = larkmoorWork(site).shortLinks.find((one) => `/go/${one.path}` === path)!;
      return Promise.resolve(said(302, '', openShortLink(destination, '', 'visitor')));
    },
  } as unknown as Places;

  const events = generate(sizes[size], end, places.quillsearch);
  const replay = makeReplay(places, events);
  await replay.visits(events.filter(isVisit));
  await replay.handOver(end);
  rmSync(folder, { recursive: true });

  const visitors = new Map<string, RecordedHit[]>();
  for (const { agent, body } of sent)
    for (const hit of (JSON.parse(body) as { hits: Hit[] }).hits) {
      const recorded = { hit, at: hit.at, mark: isBot(agent) ? 'bot' : '', browser: browserEngineOf(agent) } as const;
      visitors.set(hit.visitor, [...(visitors.get(hit.visitor) ?? []), recorded]);
    }
  const rules = rulesOfContent(content);
  const derived = [...visitors].map(([id, hits]) => deriveVisitor('larkmoor', id, hits, () => rules, end));
  const pages = new Set([...visitors.values()].flat().map(({ hit }) => pageOf(hit.address)));
  const found = derived
    .flatMap(({ findings }) => findings)
    .map(({ at, ...finding }): CountedFinding => ({ ...finding, times: 1, lastAt: at }));
  return {
    visitors: visitors.size,
    found: foldFindings(withoutSeenPages(found, pages)),
    capped: cappedBrowsers(returnsOf(derived)).map(({ browser }) => browser),
  };
}

function returnsOf(derived: DerivedVisitor[]): Returns[] {
  const counts = new Map<string, Returns>();
  for (const { visits } of derived)
    for (const [at, { browser, startedAt }] of visits.entries()) {
      const before = visits[at - 1];
      if (!before) continue;
      const own = counts.get(browser) ?? { browser, soon: 0, later: 0 };
      own[startedAt - before.endedAt <= 7 * day ? 'soon' : 'later'] += 1;
      counts.set(browser, own);
    }
  return [...counts.values()];
}

describe('the traffic of the demo', () => {
  it('shows each of the faults that are built into it', { timeout: 60_000 }, async () => {
    const { found, capped, visitors } = await play('small');
    expect(visitors).toBeGreaterThan(1000);
    expect(
      found.map(({ kind, name, pages }) => [kind, name, kind.includes('_') && name === '' ? pages : []]).sort(),
    ).toEqual([
      ['carried', 'lark_key', []],
      ['click_id_gone', 'qsid', []],
      ['own_link_tagged', 'banner', []],
      ['page_silent', '', ['larkmoor.localhost/guide']],
      ['pii', 'email', []],
      ['placeholder', 'utm_content', []],
      ['snippet_twice', '', ['larkmoor.localhost/fleet/lease']],
    ]);
    expect(capped).toEqual(['WebKit']);
  });

  it('shows none where it is clean', { timeout: 60_000 }, async () => {
    const { found, capped, visitors } = await play('clean');
    expect(visitors).toBeGreaterThan(1000);
    expect(found).toEqual([]);
    expect(capped).toEqual([]);
  });
});
