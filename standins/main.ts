import { serve } from '@hono/node-server';
import { Hono } from 'hono';
import { setClock } from './shared/clock';
import type { Standin } from './shared/standin';
import { readSurroundings, type Surroundings } from './shared/surroundings';
import { makeLarkmoor } from './larkmoor';
import { makeOakledger } from './oakledger';
import { makeQuillsearch } from './quillsearch';

/** Moves the clock and waits for rest; open only to who knows the switch this process was started with. */
function testDoor(surroundings: Surroundings, standins: Standin[]): Hono {
  const door = new Hono();
  door.use('*', async (c, next) => {
    const known = surroundings.testSwitch !== null && c.req.header('standins-test-switch') === surroundings.testSwitch;
    return known ? next() : c.notFound();
  });
  door.post('/clock', async (c) => {
    const { at, replaying } = await c.req.json<{ at: number | null; replaying?: boolean }>();
    setClock(at);
    if (replaying !== undefined) surroundings.replaying = replaying;
    return c.body(null, 204);
  });
  door.post('/rest', async (c) => {
    for (const standin of standins) await standin.rest();
    return c.body(null, 204);
  });
  return door;
}

const surroundings = readSurroundings(process.env);
const standins = [makeLarkmoor(surroundings), makeQuillsearch(surroundings), makeOakledger(surroundings)];
const servers = standins.map(({ name, app }) => {
  const front = new Hono().route('/_test', testDoor(surroundings, standins)).route('/', app);
  const port = surroundings.ports[name];
  const server = serve({ fetch: front.fetch, port, hostname: '127.0.0.1' });
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
await Promise.all(servers);
process.send?.('ready');
process.once('SIGTERM', () => process.exit(0));
process.on('SIGINT', () => undefined);
