import type { Answer, Asked, HttpClient } from '../http';
import type { Account } from './accounts';

/** An outside service did not do what was asked: too many calls, an error of its own, or no answer at all. */
export class ServiceAway extends Error {
  constructor(
    /** What happened, in a word or a number: "429", "500", "no answer". */
    readonly status: string,
    /** How long (ms) it asked us to wait, or null. */
    readonly retryAfter: number | null,
    message: string,
  ) {
    super(message);
  }
}

/**
 * Calls an account's service with its token and returns the parsed JSON of a 2xx answer.
 * @throws ServiceAway for every other answer, and where none came
 */
export async function callAccount(
  http: HttpClient,
  account: Account,
  path: string,
  asked: Asked = {},
): Promise<unknown> {
  let answer: Answer;
  try {
    answer = await http(account.endpoint + path, {
      ...asked,
      headers: {
        authorization: `Bearer ${account.secrets.token}`,
        accept: 'application/json',
        ...(asked.body === undefined ? {} : { 'content-type': 'application/json' }),
      },
    });
  } catch (error) {
    throw new ServiceAway('no answer', null, `${account.name}: ${(error as Error).message}`);
  }
  if (answer.status >= 200 && answer.status < 300) return JSON.parse(answer.body);
  const seconds = Number(answer.headers['retry-after']);
  throw new ServiceAway(
    String(answer.status),
    Number.isFinite(seconds) ? seconds * 1000 : null,
    `${account.name} answered ${answer.status}: ${answer.body.slice(0, 200)}`,
  );
}
