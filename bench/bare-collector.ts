import { createServer } from 'node:http';
import { parentPort } from 'node:worker_threads';

/** The bare counterpart of the collector, on a thread of its own: reads and parses the body, and answers. */
const server = createServer((request, response) => {
  const chunks: Buffer[] = [];
  request.on('data', (chunk: Buffer) => chunks.push(chunk));
  request.on('end', () => {
    const { hits } = JSON.parse(Buffer.concat(chunks).toString('utf8')) as { hits: unknown[] };
    response.writeHead(Array.isArray(hits) ? 204 : 400).end();
  });
});
server.listen(0, '127.0.0.1', () => parentPort!.postMessage((server.address() as { port: number }).port));
