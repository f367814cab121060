import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import autocannon from 'autocannon';
import { startApplication } from './lib/application';
import { makeBodies } from './lib/hits';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

const connections = 64;
const hitsOfBody = 4;
const seconds = 4;
const bodiesOfRun = 12_000;

const { folder, services } = await makeBenchPlace();
const { port, host, drain } = await startApplication(folder, services.config);

const bare = new Worker(new URL('./bare-collector.js', import.meta.url));
const [barePort] = (await once(bare, 'message')) as [number];

async function load(url: string): Promise<number> {
  const bodies = makeBodies(bodiesOfRun, hitsOfBody);
  let next = 0;
  const { requests, duration, non2xx, errors } = await autocannon({
    url,
    connections,
    duration: seconds,
    method: 'POST',
    headers: { host, 'content-type': 'text/plain', origin: 'http://larkmoor.localhost' },
    setupClient(client) {
      const another = () => client.setBody(bodies[next++ % bodies.length]!);
      another();
      client.on('response', another);
    },
  });
  if (non2xx > 0 || errors > 0) throw new Error(`${url}: ${non2xx} refused, ${errors} errors`);
  return (requests.total / duration) * hitsOfBody;
}

const result = await compareRates(
  'collect, durable',
  0.5,
  'hits',
  () => load(`http://127.0.0.1:${barePort}/take/larkmoor`),
  async () => {
    const rate = await load(`http://127.0.0.1:${port}/take/larkmoor`);
    // What is left in the spool is not part of the next run.
    await drain();
    return rate;
  },
);
tell([result]);
