import type { IncomingMessage, ServerResponse } from 'node:http';
import { asAvrixError, AvrixError, errorBody } from '../../core/errors';
import { log } from '../log';

/** Reads a body up to `limit` bytes. @throws AVX_BODY_TOO_LARGE */
export async function readBody(request: IncomingMessage, limit: number): Promise<string> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > limit) throw new AvrixError('AVX_BODY_TOO_LARGE', { bytes, limit });
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
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
  replyJson(response, known.status, errorBody(known));
}
