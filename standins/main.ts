import { serve } from '@hono/node-server';
import { Hono } from 'hono';
import { atTime, setClock } from './shared/clock';
import type { Standin } from './shared/standin';
import { readSurroundings, type Surroundings } from './shared/surroundings';
import { makeBellhour } from './bellhour';
import { makeBrindlepost } from './brindlepost';
import { makeLarkmoor } from './larkmoor';
import { makeLarkmoorFleet } from './larkmoor/fleet';
import { makeMeterhall } from './meterhall';
import { makeOakledger } from './oakledger';
import { makePlainAds } from './plain-ads';
import { makePlainCrm } from './plain-crm';
import { makeQuillsearch } from './quillsearch';
import { makeTessaloop } from './tessaloop';
import { makeWrenwick } from './wrenwick';

const isKnown = ({ testSwitch }: Surroundings, { headers }: Request) =>
  testSwitch !== null && headers.get('standins-test-switch') === testSwitch;

/** Moves the clock, takes what a replay does at once, and waits for rest; open only to who knows the switch this process was started with. */
function testDoor(surroundings: Surroundings, standins: Standin[]): Hono {
  const door = new Hono();
  door.use('*', (c, next) => (isKnown(surroundings, c.req.raw) ? next() : Promise.resolve(c.notFound())));
  door.post('/clock', async (c) => {
    const { at, replaying } = await c.req.json<{ at: number | null; replaying?: boolean }>();
    setClock(at);
    if (replaying !== undefined) surroundings.replaying = replaying;
    return c.body(null, 204);
  });
  for (const standin of standins)
    for (const [name, replay] of Object.entries(standin.replays ?? {}))
      door.post(`/${name}`, async (c) => c.json(replay(await c.req.json())));
  door.post('/rest', async (c) => {
    for (const standin of standins) await standin.rest();
    return c.body(null, 204);
  });
  return door;
}

const surroundings = readSurroundings(process.env);
const brindlepost = makeBrindlepost(surroundings);
const standins = [
  makeLarkmoor(surroundings),
  makeQuillsearch(surroundings),
  makeOakledger(surroundings),
  makeLarkmoorFleet(surroundings),
  makeBellhour(surroundings),
  makeWrenwick(surroundings),
  makePlainAds(surroundings),
  makePlainCrm(surroundings),
  makeMeterhall(surroundings),
  makeTessaloop(surroundings),
  brindlepost,
];
const servers = standins.map(({ name, app }) => {
  const front = new Hono().route('/_test', testDoor(surroundings, standins)).route('/', app);
  const port = surroundings.ports[name];
  const fetch = (request: Request, env: object) => {
    const at = Number(request.headers.get('standins-test-at'));
    const answer = () => front.fetch(request, env);
    return at > 0 && isKnown(surroundings, request) ? atTime(at, answer) : answer();
  };
  const server = serve({ fetch, port, hostname: '127.0.0.1' });
  server.on('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${port}, wanted for ${name}, is taken. Set AVRIX_STANDINS_PORT to another one.`
        : `${name} could not start: ${error.message}`,
    );
    process.exit(1);
  });
  return new Promise((resolve) => server.once('listening', resolve));
});
await Promise.all([...servers, brindlepost.listen()]);
process.send?.('ready');
process.once('SIGTERM', () => process.exit(0));
process.on('SIGINT', () => undefined);
