import { createServer, get, type Server } from 'node:http';
import { connect, type AddressInfo, type Socket } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { limitConnections } from './connections';

let server: Server;
const sockets: Socket[] = [];
afterEach(() => {
  for (const socket of sockets.splice(0)) socket.destroy();
  server.closeAllConnections();
  server.close();
});

async function listen(limits: { perAddress: number; total: number }): Promise<number> {
  server = createServer((_request, response) => void response.end('here'));
  limitConnections(server, { ...limits, trusted: [] });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return (server.address() as AddressInfo).port;
}
/** Opens a connection from an address of this machine that says nothing; resolves to whether it was let be. */
const open = (port: number, localAddress: string) =>
  new Promise<Socket>((resolve, reject) => {
    const socket = connect({ port, host: '127.0.0.1', localAddress }, () => resolve(socket.resume()));
    socket.on('error', reject);
    sockets.push(socket);
  });
const isEnded = (socket: Socket) =>
  new Promise<boolean>((resolve) => {
    if (socket.destroyed) return resolve(true);
    const timer = setTimeout(() => resolve(false), 200);
    socket.resume().once('close', () => (clearTimeout(timer), resolve(true)));
  });
const answered = (port: number, localAddress: string) =>
  new Promise<string>((resolve, reject) => {
    get({ port, host: '127.0.0.1', localAddress, agent: false }, (answer) => {
      answer.once('data', (data: Buffer) => resolve(data.toString()));
    }).on('error', reject);
  });

describe('open connections', () => {
  it('are limited for one address, and others are served', async () => {
    const port = await listen({ perAddress: 5, total: 100 });
    const all = await Promise.all(Array.from({ length: 8 }, () => open(port, '127.0.0.2')));
    const ended = await Promise.all(all.map(isEnded));
    expect(ended.filter(Boolean)).toHaveLength(3);
    expect(await answered(port, '127.0.0.3')).toBe('here');
  });

  it('are limited in all: the one that is still for longest gives way to a new one', async () => {
    const port = await listen({ perAddress: 100, total: 10 });
    const all: Socket[] = [];
    for (let n = 0; n < 10; n++) all.push(await open(port, `127.0.1.${n + 1}`));
    expect(await answered(port, '127.0.0.3')).toBe('here');
    expect(await Promise.all(all.map(isEnded))).toEqual([true, ...Array.from({ length: 9 }, () => false)]);
  });
});
