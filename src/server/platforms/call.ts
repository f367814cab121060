import { randomBytes } from 'node:crypto';
import { notSent, retryAfter } from '../../core/reportbacks';
import { nowMs } from '../clock';
import type { Answer, Authorised, OutgoingRequest } from '../../core/outgoing';
import { readJson } from '../../core/platforms/read-json';
import type { Context } from '../context';
import { folderOf } from '../files/folders';
import { NotSent } from '../reachable';
import { sealOf } from '../secrets';
import type { Account } from './accounts';

/** An outside service did not do what was asked: too many calls, an error of its own, or no answer at all. */
export class ServiceAway extends Error {
  constructor(
    /** What happened, in a word or a number: "429", "500", "no answer", or "not sent" where nothing left here. */
    readonly status: string,
    /** How long (ms) it asked us to wait, or null. */
    readonly retryAfter: number | null,
    message: string,
  ) {
    super(message);
  }
}

/** Whether a service refuses what was asked for what it is, so that asking the same again would be refused again. */
export const isRefusal = (error: unknown): boolean =>
  error instanceof ServiceAway && ['400', '404', '405', '410', '413', '415', '422'].includes(error.status);

/** What calls need: the client, and where it is kept how they were answered. */
export type Outside = Pick<Context, 'http' | 'note' | 'folders'>;

/** The header by which a request proves who asks, as its kind says. @param signed what a signature is of */
function proofOf(authorised: Authorised, token: string, signed: string): Record<string, string> {
  if (authorised === 'path') return {};
  if (authorised === 'bearer') return { authorization: `Bearer ${token}` };
  const { header, before, signs } = authorised;
  return { [header.toLowerCase()]: before + (signs ? sealOf(token, signed) : token) };
}

/** A name that no other file has, and that sorts by its time: `20270215T170000123Z-4f2a`. @param at ms */
const fileName = (at: number): string =>
  `${new Date(at).toISOString().replace(/[-:.]/g, '')}-${randomBytes(2).toString('hex')}`;

/** The address, headers and body of a request to an account, as it is sent. */
export function writeCall(
  account: Account,
  authorised: Authorised,
  { method, path, headers, body, file }: OutgoingRequest,
) {
  const { token } = account.secrets;
  const named = file ? path.replace('{file}', fileName(nowMs())) : path;
  const where = authorised === 'path' ? named.replace('{token}', encodeURIComponent(token)) : named;
  const text = file?.text ?? (body === undefined ? undefined : JSON.stringify(body));
  return {
    url: account.endpoint + where,
    method,
    headers: {
      accept: 'application/json',
      ...headers,
      ...proofOf(authorised, token, text ?? path),
      ...(text === undefined ? {} : { 'content-type': file?.type ?? 'application/json' }),
    },
    body: text,
  };
}

/**
 * Carries a request to an account's service, with its token, and returns what came back, whatever its status.
 * @throws ServiceAway where nothing came
 */
export async function carryOut(
  { http, note, folders }: Outside,
  account: Account,
  authorised: Authorised,
  request: OutgoingRequest,
): Promise<Answer> {
  const { url, body, ...call } = writeCall(account, authorised, request);
  const folder = folderOf(account.endpoint);
  try {
    if (folder !== null) {
      const name = await folders.put(account.businessId, folder, url.slice(account.endpoint.length), body ?? '');
      await note(account, 'PUT', '201', '');
      return { status: 201, headers: {}, body: name };
    }
    const answer = await http(url, { ...call, ...(body === undefined ? {} : { body }) });
    await note(account, call.method, String(answer.status), isGood(answer.status) ? '' : answer.body);
    return answer;
  } catch (error) {
    const status = error instanceof NotSent ? notSent : 'no answer';
    await note(account, call.method, status, (error as Error).message);
    throw new ServiceAway(status, null, `${account.name}: ${(error as Error).message}`);
  }
}

const isGood = (status: number) => status >= 200 && status < 300;

/**
 * Asks an account's service and returns the parsed JSON of a 2xx answer; null of one that has no content.
 * @throws ServiceAway for every other answer, where none came, and where it is no JSON
 */
export async function askAccount(
  outside: Outside,
  account: Account,
  authorised: Authorised,
  request: OutgoingRequest,
): Promise<unknown> {
  const answer = await carryOut(outside, account, authorised, request);
  if (!isGood(answer.status))
    throw new ServiceAway(
      String(answer.status),
      retryAfter(answer.headers['retry-after'], nowMs()),
      `${account.name} answered ${answer.status}: ${answer.body.slice(0, 200)}`,
    );
  // No content (RFC 9110, 15.3.5).
  if (answer.status === 204) return null;
  const read = readJson(answer.body);
  if (read === undefined) {
    await outside.note(account, request.method, 'no JSON', answer.body);
    throw new ServiceAway('no JSON', null, `${account.name} answered no JSON: ${answer.body.slice(0, 200)}`);
  }
  return read;
}
