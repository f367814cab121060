import { createServer, request as ask, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { holdBody, limitOf, readBytes } from './bodies';
import { reply, replyError } from './reply';

let server: Server;
let port: number;
/** What the last request's body was, as who came after the door read it. */
let read = '';

beforeAll(async () => {
  server = createServer((request, response) => {
    const take = async () => {
      if (request.url === '/bytes') return reply(response, 200, {}, String((await readBytes(request, 1000)).length));
      await holdBody(request);
      const { body } = request as unknown as { body: AsyncIterable<Buffer> };
      read = '';
      for await (const chunk of body) read += chunk.toString();
      reply(response, 204);
    };
    void take().catch((error: unknown) => replyError(response, error));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

/** Sends chunks until the answer is there, without saying how many there will be. */
function send(path: string, chunk: Buffer, times: number): Promise<{ status: number; sent: number }> {
  return new Promise((resolve, reject) => {
    let sent = 0;
    let isAnswered = false;
    const call = ask({ port, path, method: 'POST', headers: { 'transfer-encoding': 'chunked' } }, (answer) => {
      isAnswered = true;
      answer.resume();
      answer.on('end', () => resolve({ status: answer.statusCode!, sent }));
    });
    call.on('error', (error) => (isAnswered ? undefined : reject(error)));
    const more = () => {
      while (!isAnswered && sent < times) {
        sent += 1;
        if (!call.write(chunk)) return void call.once('drain', more);
      }
      if (!isAnswered) call.end();
    };
    more();
  });
}

describe('a body', () => {
  it('is read whole, and left for who reads the request after', async () => {
    const form = 'mail=anna%40bakery.example&password=x';
    const answer = await fetch(`http://127.0.0.1:${port}/api/sign-in`, { method: 'POST', body: form });
    expect([answer.status, read]).toEqual([204, form]);
    await fetch(`http://127.0.0.1:${port}/api/sign-out`, { method: 'POST' });
    expect(read).toBe('');
  });

  it('that says it is too long is refused before a byte of it is read', async () => {
    const answer = await fetch(`http://127.0.0.1:${port}/bytes`, { method: 'POST', body: 'x'.repeat(1001) });
    expect([answer.status, answer.headers.get('connection')]).toEqual([413, 'close']);
    expect(await answer.json()).toMatchObject({ code: 'AVX_BODY_TOO_LARGE' });
  });

  it('that does not say how long it is ends at the limit, however much is to come', async () => {
    const before = process.memoryUsage().rss;
    const answers = await Promise.all(
      Array.from({ length: 6 }, () => send('/api/sign-in', Buffer.alloc(65_536, 'x'), 7000)),
    );
    for (const { status, sent } of answers) {
      expect(status).toBe(413);
      expect(sent).toBeLessThan(1000);
    }
    expect(process.memoryUsage().rss - before).toBeLessThan(200 * 2 ** 20);
  });

  it('that comes a byte now and then is ended, and others are answered meanwhile', { timeout: 20_000 }, async () => {
    const socket = connect(port, '127.0.0.1');
    socket.write('POST /bytes HTTP/1.1\r\nhost: x\r\ncontent-length: 900\r\n\r\n');
    const drip = setInterval(() => socket.write('x'), 300);
    const heard = new Promise<string>((resolve) => socket.once('data', (data: Buffer) => resolve(data.toString())));
    const other = await fetch(`http://127.0.0.1:${port}/bytes`, { method: 'POST', body: 'x' });
    expect(await other.text()).toBe('1');
    expect(await heard).toMatch(/^HTTP\/1\.1 408 /);
    clearInterval(drip);
    socket.destroy();
  });

  it('has a limit at every door, and none where no door takes one', () => {
    expect(limitOf('/api/sign-in')).toBe(16 * 1024);
    expect(limitOf('/api/businesses')).toBe(16 * 1024);
    expect(limitOf('/api/v1/larkmoor/leads')).toBe(64 * 1024);
    expect(limitOf('/api/b/larkmoor/links')).toBe(8 * 2 ** 20);
    expect(['/', '/sign-in', '/b/larkmoor', '/api/openapi.json'].map(limitOf)).toEqual([0, 0, 0, 0]);
  });
});
