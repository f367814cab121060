import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import autocannon from 'autocannon';
import { startApplication } from './lib/application';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

const connections = 64;
const seconds = 4;

const { folder, services, business } = await makeBenchPlace();
const destination = 'http://larkmoor.localhost/fleet?utm_source=cargo-fair&utm_medium=fair';
const now = new Date();
await services.context.tables.shortLinks.create({
  businessId: business,
  id: '019bc41a-0c43-73b6-aa70-6ce7ae64bc50',
  path: 'bench',
  destination,
  wins: 'link',
  status: 302,
  madeAt: now,
  changedAt: now,
});
const { port, host, drain } = await startApplication(folder, services.config);

const bare = new Worker(new URL('./bare-redirect.js', import.meta.url), { workerData: destination });
const [barePort] = (await once(bare, 'message')) as [number];

async function load(url: string): Promise<number> {
  const { requests, duration, errors, statusCodeStats } = await autocannon({
    url,
    connections,
    duration: seconds,
    headers: { host, 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/156.0 Safari/537.36' },
  });
  const others = Object.keys(statusCodeStats ?? {}).filter((status) => status !== '302');
  if (errors > 0 || others.length > 0) throw new Error(`${url}: ${errors} errors, answers ${others.join(', ')}`);
  return requests.total / duration;
}

const result = await compareRates(
  'short link',
  0.45,
  'redirects',
  () => load(`http://127.0.0.1:${barePort}/go/bench?seat=2`),
  async () => {
    const rate = await load(`http://127.0.0.1:${port}/go/larkmoor/bench?seat=2`);
    // Clicks left in the spool are not part of the next run.
    await drain();
    return rate;
  },
);
tell([result]);
