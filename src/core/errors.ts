/**
 * Every error a person or a program can be answered with: its code, its HTTP status and the sentence that is read.
 * The sentence names the place, what was wrong there and what would be right.
 */
const catalogue = {
  AVX_BODY_NOT_JSON: [400, () => 'The body is not JSON. Send one JSON document.'],
  AVX_BODY_TOO_LARGE: [413, (o) => `The body has ${o.bytes} bytes; at most ${o.limit} are taken.`],
  AVX_FIELD_WRONG: [400, (o) => `${o.field}: ${o.was}. ${o.wants}`],
  AVX_BUSINESS_UNKNOWN: [404, (o) => `No business is known as “${o.business}”.`],
  AVX_NOT_FOUND: [404, (o) => `There is no ${o.what} at this address.`],
  AVX_RELEASE_UNKNOWN: [404, (o) => `This business has no release ${o.number}.`],
  AVX_SIGN_IN_NEEDED: [401, () => 'Sign in first.'],
  AVX_SIGN_IN_WRONG: [401, () => 'Mail address and password do not belong together.'],
  AVX_SIGN_IN_SLOW_DOWN: [429, (o) => `Too many wrong tries. Try again in ${o.minutes} minutes.`],
  AVX_ROLE_TOO_SMALL: [403, (o) => `This needs the right to ${o.right} in this business.`],
  AVX_ORIGIN_FOREIGN: [403, (o) => `This was sent from ${o.origin}; only pages of Avrix itself may do that.`],
  AVX_SEAL_WRONG: [401, () => 'The seal does not fit the body. Sign it with the secret shown at the account.'],
  AVX_SEAL_OLD: [401, (o) => `The seal is ${o.seconds} seconds old; at most ${o.limit} are taken.`],
  AVX_METHOD_WRONG: [405, (o) => `This address takes ${o.wants}.`],
  AVX_SPOOL_AWAY: [503, () => 'What was sent cannot be kept at the moment. Nothing was taken; send it again.'],
  AVX_TOO_MANY: [
    429,
    (o) => `At most ${o.limit} calls a minute are taken from one address. Wait ${o.seconds} seconds.`,
  ],
  AVX_DATABASE_AWAY: [503, () => 'The database does not answer. Nothing was taken; send it again.'],
} satisfies Record<string, [number, (operands: Operands) => string]>;

type Operands = Record<string, string | number>;
export type ErrorCode = keyof typeof catalogue;

/** An answer that is an error: `code`, `status` (HTTP) and the sentence as `message`. */
export class AvrixError extends Error {
  readonly status: number;
  constructor(
    readonly code: ErrorCode,
    readonly operands: Operands = {},
  ) {
    const [status, sentence] = catalogue[code] as [number, (operands: Operands) => string];
    super(sentence(operands));
    this.name = 'AvrixError';
    this.status = status;
  }
}

/**
 * The error as an AvrixError, or null where it is none. The pages and the server are bundled apart, so that one class
 * exists twice and `instanceof` would not know it.
 */
export function asAvrixError(error: unknown): AvrixError | null {
  return error instanceof Error && error.name === 'AvrixError' ? (error as AvrixError) : null;
}

/** The JSON body of an error answer. */
export function errorBody(error: AvrixError) {
  return { code: error.code, message: error.message };
}
