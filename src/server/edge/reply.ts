import type { IncomingMessage, ServerResponse } from 'node:http';
import { asAvrixError, AvrixError, problemOf, problemType } from '../../core/errors';
import { log } from '../log';

/** Reads a body up to `limit` bytes. @throws AVX_BODY_TOO_LARGE */
export function readBody(request: IncomingMessage, limit: number): Promise<string> {
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    let bytes = 0;
    request.on('data', (chunk: Buffer) => {
      bytes += chunk.length;
      if (bytes <= limit) chunks.push(chunk);
      else reject(new AvrixError('AVX_BODY_TOO_LARGE', { bytes, limit }));
    });
    request.on('end', () => resolve(Buffer.concat(chunks).toString('utf8')));
    request.on('error', reject);
  });
}

export function reply(response: ServerResponse, status: number, headers: Record<string, string> = {}, body = ''): void {
  response.writeHead(status, { ...headers, 'x-content-type-options': 'nosniff' }).end(body);
}

export function replyJson(response: ServerResponse, status: number, body: unknown): void {
  reply(response, status, { 'content-type': 'application/json; charset=utf-8' }, JSON.stringify(body));
}

/** Answers with an error's own status and sentence; what is not ours becomes 503 and is logged. */
export function replyError(response: ServerResponse, error: unknown): void {
  if (response.headersSent) return void response.destroy();
  const known = asAvrixError(error) ?? new AvrixError('AVX_DATABASE_AWAY');
  if (known !== error) log.error({ error: (error as Error).stack }, 'edge failed');
  reply(response, known.status, { 'content-type': problemType }, JSON.stringify(problemOf(known)));
}
