import { request } from 'node:http';
import { tell } from './lib/measure';

const asked = 21;
const {
  BENCH_AVRIX: avrix,
  BENCH_MAIL: mail,
  BENCH_PASSWORD: password,
  BENCH_AIM,
} = process.env as Record<string, string>;
const { host, port } = new URL(avrix!);

/** Asks the application as a browser does; `*.localhost` is this machine. */
function ask(path: string, cookie = '', body: string | null = null, type = 'application/json') {
  return new Promise<{ status: number; cookie: string; bytes: number }>((resolve, reject) => {
    const headers = { host, cookie, origin: avrix!, accept: '*/*', ...(body === null ? {} : { 'content-type': type }) };
    const call = request(
      { host: '127.0.0.1', port, path, method: body === null ? 'GET' : 'POST', headers },
      (answer) => {
        let bytes = 0;
        answer.on('data', (chunk: Buffer) => (bytes += chunk.length));
        answer.on('end', () => {
          const set = String(answer.headers['set-cookie'] ?? '').split(';')[0]!;
          resolve({ status: answer.statusCode!, cookie: set, bytes });
        });
      },
    );
    call.on('error', reject);
    call.end(body ?? undefined);
  });
}

const form = new URLSearchParams({ mail: mail!, password: password! }).toString();
const { cookie } = await ask('/api/sign-in', '', form, 'application/x-www-form-urlencoded');

/** Every page of the interface, and the effects that are asked for while a rule is written. */
const pages = [
  ['the line, 4 weeks', ''],
  ['the line, 13 months', `?range=own&from=${process.env.BENCH_FROM}&to=${process.env.BENCH_TO}`],
  ['strands', '/strands?hop=kept&state=left'],
  ['leads', '/leads'],
  ['leads by company', '/leads?sort=company'],
  ['leads found', '/leads?find=harbour'],
  ['strands by company', '/strands?hop=form_sent&sort=company'],
  ['tags', '/plan'],
  ['campaign names', '/plan/names'],
  ['channels', '/plan/channels'],
  ['campaigns', '/plan/campaigns'],
  ['off plan', '/plan/off-plan'],
  ['share', '/plan/share'],
  ['make one link', '/links'],
  ['make many', '/links/many'],
  ['links made', '/links/made'],
  ['short links', '/links/short'],
  ['page checks', '/links/checks'],
  ['faults', '/capture'],
  ['kept', '/capture/kept'],
  ['fields', '/capture/fields'],
  ['swap tables', '/capture/swaps'],
  ['forms seen', '/capture/forms'],
  ['elsewhere', '/capture/elsewhere'],
  ['not customers', '/capture/no-customer'],
  ['install', '/capture/install'],
  ['figures, 4 weeks', '/results'],
  [
    'figures, 13 months',
    `/results?count=visits,leads,qualified,cost&range=own&from=${process.env.BENCH_FROM}&to=${process.env.BENCH_TO}`,
  ],
  ['just in', '/results/just-in'],
  ['funnel', '/results/funnel'],
  ['visits', '/results/visits'],
  ['cost', '/results/cost'],
  ['three counts', '/results/three-counts'],
  ['ripeness', '/results/ripeness'],
  ['months', '/results/months'],
  ['not live', '/not-live'],
  ['history', '/releases'],
] as const;
const value = { touchDays: 30, touchAge: 'renewed', utmLowerCase: true, setBy: 'page' };
const effects = [
  ['effect of a keep rule', '/capture/effect', { changes: [{ kind: 'keep', id: '', value }] }],
  [
    'traffic of a kept value',
    '/capture/kept-traffic',
    {
      name: 'nosuch',
      cookie: '',
      days: 90,
      age: 'fixed',
      which: 'first',
      lowerCase: true,
      characters: 'words',
      longest: 20,
    },
  ],
  [
    'effect of an alias',
    '/plan/effect',
    {
      changes: [{ kind: 'alias', id: 'utm_medium=x', value: { tag: 'utm_medium', value: 'x', means: 'email' } }],
    },
  ],
] as const;
/** What is read without a page: files as a whole, and what is asked for by a button. */
const answers = [
  ['leads.csv', '/leads.csv?sort=company'],
  ['strands.csv', '/strands.csv?hop=kept&state=left'],
  ['past of not customers', '/capture/no-customer/past'],
] as const;

async function measure(name: string, once: () => Promise<{ status: number }>): Promise<void> {
  const times: number[] = [];
  let status = 0;
  // The first one finds nothing remembered; it counts like the others.
  for (let i = 0; i < asked; i++) {
    const began = performance.now();
    ({ status } = await once());
    times.push(performance.now() - began);
    // A page that takes seconds is known well enough after a few.
    if (times.reduce((sum, one) => sum + one, 0) > 20_000) break;
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => Math.round(times[Math.ceil(share * times.length) - 1]!);
  const late = at(0.95) > Number(BENCH_AIM) ? '  late' : '';
  console.log(
    `${name.padEnd(24)} p50 ${String(at(0.5)).padStart(6)} ms  p95 ${String(at(0.95)).padStart(6)} ms${late}${status === 200 ? '' : `  answered ${status}`}`,
  );
}

console.log(`The server's answer to each page, ${asked} times (aim: p95 ${BENCH_AIM} ms)`);
for (const [name, path] of pages) await measure(name, () => ask(`/b/larkmoor${path}`, cookie));
for (const [name, path, body] of effects)
  await measure(name, () => ask(`/api/b/larkmoor${path}`, cookie, JSON.stringify(body)));
for (const [name, path] of answers) await measure(name, () => ask(`/api/b/larkmoor${path}`, cookie));
tell([]);
