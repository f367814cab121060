import { serve } from '@hono/node-server';
import type { AddressInfo } from 'node:net';
import { Hono } from 'hono';

interface Told {
  events: { id: string; path: string; moment: string; with: Record<string, string> }[];
}
/** What is answered: JSON, null for a refusal of the whole, `away` for an error of its own. */
type Answers = (told: Told) => object | null | 'away';

/** A place that takes events, answering as a test wants. */
export async function startListener() {
  const got: Told[] = [];
  let answer: Answers = () => 'away';
  const app = new Hono();
  app.post('/intake', async (c) => {
    const told = await c.req.json<Told>();
    got.push(told);
    const said = answer(told);
    if (said === 'away') return c.text('not now', 500);
    return said === null ? c.json({ why: 'no' }, 400) : c.json(said);
  });
  const server = serve({ fetch: app.fetch, port: 0, hostname: '127.0.0.1' });
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://127.0.0.1:${port}`,
    got,
    answers: (next: Answers) => void (answer = next),
    end: () => server.close(),
  };
}
