import { createServer } from 'node:http';
import { parentPort } from 'node:worker_threads';

/** A CRM on a thread of its own: says what each record holds, and takes every value. */
const recordOf = (id: string) => ({
  id,
  stage: 'Asked',
  made_at: '2027-02-01T09:00:00.000Z',
  changed_at: '2027-02-01T09:00:00.000Z',
  person: { id: `P-${id}`, name: 'Ada', mail: 'ada@bakery.example', company: 'Bakery' },
  fields: { click_id: '', source_words: '' },
  amounts: {},
  moves: [{ stage: 'Asked', at: '2027-02-01T09:00:00.000Z' }],
});
const server = createServer((request, response) => {
  const id = request.url!.split('/')[3]!;
  request.resume().on('end', () => {
    response.writeHead(200, { 'content-type': 'application/json' });
    response.end(request.method === 'GET' ? JSON.stringify(recordOf(id)) : '{"ignored":[]}');
  });
});
server.listen(0, '127.0.0.1', () => parentPort!.postMessage((server.address() as { port: number }).port));
