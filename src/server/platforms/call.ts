import { notSent, retryAfter } from '../../core/reportbacks';
import { nowMs } from '../clock';
import type { Answer, Authorised, OutgoingRequest } from '../../core/outgoing';
import { NotSent, type HttpClient } from '../http';
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

/**
 * Carries a request to an account's service, with its token, and returns what came back, whatever its status.
 * @throws ServiceAway where nothing came
 */
export async function carryOut(
  http: HttpClient,
  account: Account,
  authorised: Authorised,
  { method, path, body }: OutgoingRequest,
): Promise<Answer> {
  const { token } = account.secrets;
  const where = authorised === 'path' ? path.replace('{token}', encodeURIComponent(token)) : path;
  try {
    return await http(account.endpoint + where, {
      method,
      headers: {
        accept: 'application/json',
        ...(authorised === 'bearer' ? { authorization: `Bearer ${token}` } : {}),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch (error) {
    const status = error instanceof NotSent ? notSent : 'no answer';
    throw new ServiceAway(status, null, `${account.name}: ${(error as Error).message}`);
  }
}

/**
 * Asks an account's service and returns the parsed JSON of a 2xx answer.
 * @throws ServiceAway for every other answer, and where none came
 */
export async function askAccount(
  http: HttpClient,
  account: Account,
  authorised: Authorised,
  request: OutgoingRequest,
): Promise<unknown> {
  const answer = await carryOut(http, account, authorised, request);
  if (answer.status >= 200 && answer.status < 300) return JSON.parse(answer.body);
  throw new ServiceAway(
    String(answer.status),
    retryAfter(answer.headers['retry-after'], nowMs()),
    `${account.name} answered ${answer.status}: ${answer.body.slice(0, 200)}`,
  );
}
