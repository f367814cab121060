import { request } from 'node:http';

export interface Answered {
  status: number;
  body: string;
}

/** Posts JSON over HTTP. `*.localhost` is this machine, which Node's own resolver does not know. */
export function postJson(url: string, headers: Record<string, string>, body: string): Promise<Answered> {
  const { hostname, port, pathname, search } = new URL(url);
  return new Promise((resolve, reject) => {
    const call = request(
      {
        host: hostname.endsWith('.localhost') ? '127.0.0.1' : hostname,
        port,
        path: pathname + search,
        method: 'POST',
        headers: { host: `${hostname}:${port}`, 'content-type': 'application/json', ...headers },
        timeout: 10_000,
      },
      (answer) => {
        const chunks: Buffer[] = [];
        answer.on('data', (chunk: Buffer) => chunks.push(chunk));
        answer.on('end', () =>
          resolve({ status: answer.statusCode ?? 0, body: Buffer.concat(chunks).toString('utf8') }),
        );
        answer.on('error', reject);
      },
    );
    call.on('timeout', () => call.destroy(new Error('no answer within 10 seconds')));
    call.on('error', reject);
    call.end(body);
  });
}
