import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeHttpClient } from './http';

let server: Server;
let port: number;

beforeAll(async () => {
  server = createServer((request, response) => {
    if (request.url === '/big') response.end(Buffer.alloc(9 * 2 ** 20));
    else if (request.url === '/away') response.writeHead(302, { location: 'http://10.0.0.1/' }).end();
    else response.end(`${request.headers.host} ${request.url}`);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => server.close());

describe('the client for outgoing calls', () => {
  it('knows *.localhost as this machine, where the operator listed it', async () => {
    const http = makeHttpClient([`quillsearch.localhost:${port}`]);
    expect((await http(`http://quillsearch.localhost:${port}/x`)).body).toBe(`quillsearch.localhost:${port} /x`);
  });

  it.each([
    'http://127.0.0.1',
    'http://localhost',
    'http://[::1]',
    'http://10.1.2.3',
    'http://169.254.169.254',
    'http://0.0.0.0',
  ])('refuses %s, which lies inside', async (url) => {
    await expect(makeHttpClient([])(`${url}:${port}/`)).rejects.toThrow(/lies inside the network and is not listed/);
  });

  it('does not take one listed port for another', async () => {
    await expect(makeHttpClient([`localhost:${port + 1}`])(`http://localhost:${port}/`)).rejects.toThrow(/not listed/);
  });

  it('follows no redirect and reads no endless answer', async () => {
    const http = makeHttpClient([`localhost:${port}`]);
    expect((await http(`http://localhost:${port}/away`)).status).toBe(302);
    await expect(http(`http://localhost:${port}/big`)).rejects.toThrow(/more than 8388608 bytes/);
  });

  it('takes nothing but http and https', async () => {
    await expect(makeHttpClient([])('file:///etc/passwd')).rejects.toThrow(/no http\(s\) address/);
  });
});
