import type { ServerResponse } from 'node:http';
import { asAvrixError, AvrixError, problemOf, problemType } from '../../core/errors';
import { log } from '../log';

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
  // What was not read of a body is not waited for.
  const connection: Record<string, string> = [408, 413].includes(known.status) ? { connection: 'close' } : {};
  reply(response, known.status, { 'content-type': problemType, ...connection }, JSON.stringify(problemOf(known)));
}
