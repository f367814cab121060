import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { networkInterfaces } from 'node:os';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeHttpClient } from './http';
import { NotSent } from './reachable';

let server: Server;
let port: number;

beforeAll(async () => {
  server = createServer((request, response) => {
    if (request.url === '/cut') request.socket.destroy();
    else if (request.url === '/big') response.end(Buffer.alloc(9 * 2 ** 20));
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

  it('refuses every address of this machine, also those that are reached from outside', async () => {
    const own = Object.values(networkInterfaces()).flatMap((all) => all ?? []);
    expect(own.length).toBeGreaterThan(0);
    for (const { address, family } of own) {
      const host = family === 'IPv6' ? `[${address.split('%')[0]}]` : address;
      await expect(makeHttpClient([])(`http://${host}:${port}/`)).rejects.toThrow(/lies inside the network/);
    }
  });

  it('says of a call that never left that it did not', async () => {
    const closed = createServer();
    await new Promise<void>((resolve) => closed.listen(0, '127.0.0.1', resolve));
    const { port: free } = closed.address() as AddressInfo;
    await new Promise((resolve) => closed.close(resolve));
    const http = makeHttpClient([`localhost:${free}`, `localhost:${port}`]);
    await expect(http(`http://localhost:${free}/`)).rejects.toBeInstanceOf(NotSent);
    await expect(http('http://10.0.0.1/')).rejects.toBeInstanceOf(NotSent);
    await expect(http('http://nobody.invalid/')).rejects.toBeInstanceOf(NotSent);
    await expect(http(`http://localhost:${port}/cut`)).rejects.not.toBeInstanceOf(NotSent);
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
