import { createHmac } from 'node:crypto';
import { Agent, request } from 'undici';
import { z } from 'zod';
import { sizeNames } from './generator/sizes';

const environmentSchema = z.object({
  DEMO_SIZE: z.enum(sizeNames),
  DEMO_LAST_DAY: z.iso.date(),
  DEMO_AVRIX_PORT: z.coerce.number(),
  DEMO_STANDINS_PORT: z.coerce.number(),
  DEMO_STANDINS_SECRET: z.string(),
  DEMO_SWITCH: z.string(),
});

export interface Answer {
  status: number;
  location: string;
  body: string;
}

/** Every `*.localhost` is this machine. */
const agent = new Agent({
  connect: {
    lookup: (_host, options, done) =>
      options.all ? done(null, [{ address: '127.0.0.1', family: 4 }]) : done(null, '127.0.0.1', 4),
  },
});

async function ask(url: string, headers: Record<string, string> = {}, body?: string): Promise<Answer> {
  const answer = await request(url, {
    method: body === undefined ? 'GET' : 'POST',
    headers,
    body: body ?? null,
    dispatcher: agent,
  });
  return { status: answer.statusCode, location: String(answer.headers.location ?? ''), body: await answer.body.text() };
}

/** Where everything answers, and the ways to speak to it. */
export function readPlaces(environment: NodeJS.ProcessEnv) {
  const env = environmentSchema.parse(environment);
  const standin = (name: string, i: number) => `http://${name}.localhost:${env.DEMO_STANDINS_PORT + i}`;
  const edge = `http://avrix-edge.localhost:${env.DEMO_AVRIX_PORT}`;
  const firstParty = `http://t.larkmoor.localhost:${env.DEMO_AVRIX_PORT}`;
  const json = { 'content-type': 'application/json' };
  const key = (name: string) => createHmac('sha256', env.DEMO_STANDINS_SECRET).update(name).digest('hex').slice(0, 40);
  const larkmoor = standin('larkmoor', 0);
  const oakledger = standin('oakledger', 2);

  const door = async (url: string, header: string, body: object): Promise<unknown> => {
    const { status, body: text } = await ask(url, { ...json, [header]: env.DEMO_SWITCH }, JSON.stringify(body));
    if (status >= 300) throw new Error(`${url} answered ${status}: ${text}`);
    return text && JSON.parse(text);
  };

  return {
    size: env.DEMO_SIZE,
    lastDay: env.DEMO_LAST_DAY,
    larkmoor,
    quillsearch: standin('quillsearch', 1),
    oakledger,
    wrenwick: standin('wrenwick', 5),
    meterhall: standin('meterhall', 8),
    tessaloop: standin('tessaloop', 9),
    brindlepost: standin('brindlepost', 10),
    /** Where Brindlepost takes emails. */
    smtp: { host: 'brindlepost.localhost', port: env.DEMO_STANDINS_PORT + 11 },
    key,
    ask,
    avrix: (name: string, body: object = {}) => door(`${edge}/_test/${name}`, 'avrix-test-switch', body),
    standins: (name: string, body: object = {}) => door(`${larkmoor}/_test/${name}`, 'standins-test-switch', body),
    /** A call of the edge under the website's own name, at a time (ms) of its own. */
    edgeAt: (at: number, path: string, headers: Record<string, string>) =>
      ask(firstParty + path, { ...headers, 'avrix-test-switch': env.DEMO_SWITCH, 'avrix-test-at': String(at) }),
    /** Oakledger's API, as a program of the sales desk would use it. */
    crm: (path: string, body?: object) =>
      ask(
        oakledger + path,
        { ...json, authorization: `Bearer ${key('oakledger website token')}` },
        body && JSON.stringify(body),
      ),
  };
}
export type Places = ReturnType<typeof readPlaces>;
