import { createServer } from 'node:net';

const isFree = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });

/** The first of `count` neighbouring free ports on loopback, looked for from `from` on. */
export async function freePorts(from, count) {
  for (let port = from; port < 60_000; port += count) {
    const free = await Promise.all(Array.from({ length: count }, (_, i) => isFree(port + i)));
    if (free.every(Boolean)) return port;
  }
  throw new Error(`no ${count} neighbouring free ports from ${from} on`);
}
