import { createServer } from 'node:http';
import { parentPort, workerData } from 'node:worker_threads';

/** The bare counterpart of a short link, on a thread of its own: sends on to the one address it knows. */
const server = createServer((_request, response) => {
  response.writeHead(302, { location: workerData as string }).end();
});
server.listen(0, '127.0.0.1', () => parentPort!.postMessage((server.address() as { port: number }).port));
