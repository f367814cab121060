/**
 * Every error a person or a program can be answered with: its code, its HTTP status, what it is called, and the sentence
 * that is read. The sentence names the place, what was wrong there and what would be right.
 */
const catalogue = {
  AVX_BODY_NOT_JSON: [400, 'Body is not JSON', () => 'The body is not JSON. Send one JSON document.'],
  AVX_BODY_TOO_LARGE: [413, 'Body is too large', (o) => `The body has ${o.bytes} bytes; at most ${o.limit} are taken.`],
  AVX_BODY_SLOW: [
    408,
    'Body came too slowly',
    (o) => `The body came at less than ${o.rate} bytes a second. Send it again.`,
  ],
  AVX_BUSY: [503, 'Too much at once', () => 'Too much is being sent at once. Nothing was taken; send it again.'],
  AVX_FIELD_WRONG: [400, 'A field is wrong', (o) => `${o.field}: ${o.was}. ${o.fix}`],
  AVX_CARRIED_WRONG: [
    400,
    'Carried values are not good',
    () => 'The value of avx_to was not signed here, or is incomplete. Pass it on as it came.',
  ],
  AVX_CARRIED_OLD: [
    410,
    'Carried values are too old',
    (o) => `The value of avx_to was signed more than ${o.limit} ago. Follow the link of the page anew.`,
  ],
  AVX_PLACE_UNKNOWN: [
    404,
    'Place is not known',
    (o) => `The live release leads no values to a place called “${o.place}”.`,
  ],
  AVX_BUSINESS_UNKNOWN: [404, 'Business is not known', (o) => `No business is known as “${o.business}”.`],
  AVX_LAST_OWNER: [
    409,
    'Somebody must own it',
    () => 'Nobody else owns this business. Make somebody else an owner first.',
  ],
  AVX_INVITATION_UNKNOWN: [
    404,
    'Invitation is not known',
    () => 'No invitation is behind this link. Ask the person who sent it for a new one.',
  ],
  AVX_INVITATION_USED: [
    410,
    'Invitation was used',
    () => 'This invitation was taken up already; it works once. Sign in, or ask for a new one.',
  ],
  AVX_INVITATION_OVER: [
    410,
    'Invitation has ended',
    (o) => `This invitation ended ${o.days} days after it was made. Ask for a new one.`,
  ],
  AVX_INVITATION_OTHER: [
    403,
    'Invitation is for somebody else',
    (o) => `This invitation is for ${o.mail}. Sign in as that person, then open the link again.`,
  ],
  AVX_MAY_NOT_MAKE: [
    403,
    'You may not make a business',
    () => 'Only who owns a business here can make another one. Ask an owner.',
  ],
  AVX_NOT_FOUND: [404, 'Not found', (o) => `There is no ${o.what} at this address.`],
  AVX_ENQUIRY_NEW: [
    404,
    'Enquiry is too new',
    () => 'This enquiry came in a moment ago and is being followed. Open it again in a few seconds.',
  ],
  AVX_RELEASE_UNKNOWN: [404, 'Release is not known', (o) => `This business has no release ${o.number}.`],
  AVX_SIGN_IN_NEEDED: [401, 'Sign in first', () => 'Sign in first.'],
  AVX_TOKEN_WRONG: [
    401,
    'Token is not good',
    () => 'Send “Authorization: Bearer” with a token of this business that is neither revoked nor expired.',
  ],
  AVX_SIGN_IN_WRONG: [401, 'Email or password is wrong', () => 'Email and password do not belong together.'],
  AVX_SIGN_IN_SLOW_DOWN: [
    429,
    'Too many wrong tries',
    (o) => `Too many wrong tries. Try again in ${o.minutes} minutes.`,
  ],
  AVX_ROLE_TOO_SMALL: [403, 'Not allowed', (o) => `This needs the right to ${o.right} in this business.`],
  AVX_ORIGIN_FOREIGN: [
    403,
    'Sent from another website',
    (o) => `This was sent from ${o.origin}; only pages of Avrix itself may do that.`,
  ],
  AVX_SEAL_WRONG: [
    401,
    'Seal is wrong',
    () => 'The seal does not fit the body. Sign it with the secret shown at the account.',
  ],
  AVX_NOTHING_TO_TRY: [
    409,
    'Nothing to try',
    (o) => `${o.name} is asked nothing: its records come by webhook or file. Send one and see it arrive.`,
  ],
  AVX_POSTBACK_UNREAD: [
    400,
    'Postback cannot be read',
    () => 'It is neither JSON, nor a form, nor an address with a query. Post one of them.',
  ],
  AVX_RECORD_UNREAD: [422, 'Record cannot be read', (o) => `Nothing of it could be read: ${o.was}. ${o.fix}`],
  AVX_CRM_NOT_WRITTEN: [409, 'CRM is not written to', () => 'No CRM is read that says how its records are written to.'],
  AVX_CRM_NO_NOTES: [409, 'CRM takes no notes', () => 'The CRM takes no notes, or has no record of this enquiry.'],
  AVX_NOTE_THERE: [409, 'Note is there already', (o) => `${o.crm} has this note already; it says the same.`],
  AVX_SEGMENT_CIRCLE: [
    409,
    'Segments mean each other',
    () => 'A segment cannot be made of itself, not by way of others either. Take one of them out of the sentence.',
  ],
  AVX_SEGMENT_USED: [409, 'Segment is in use', (o) => `It is part of ${o.by}. Change that first.`],
  AVX_SEGMENT_CHANGED: [
    409,
    'Segment was changed meanwhile',
    () => 'Somebody changed this segment meanwhile. Look at it anew before you save yours.',
  ],
  AVX_ROUTINE_CHANGED: [
    409,
    'Routine was changed meanwhile',
    () => 'Somebody changed this routine meanwhile. Look at it anew before you save yours.',
  ],
  AVX_MAIL_CHANGED: [
    409,
    'Email was changed meanwhile',
    () => 'Somebody changed this email meanwhile. Look at it anew before you save yours.',
  ],
  AVX_MAIL_USED: [409, 'Email is in use', (o) => `It is sent by ${o.by}. Change that first.`],
  AVX_MAIL_NOT_SET_UP: [
    409,
    'No mail server is known',
    () => 'Say on “How emails are sent” which mail server sends them.',
  ],
  AVX_MAIL_NOT_TAKEN: [502, 'The mail server did not take it', (o) => `The mail server answered: ${o.answer}`],
  AVX_BOOK_TOO_LONG: [
    413,
    'Workbook would be too long',
    (o) => `A workbook takes ${o.limit} rows. Export CSV, or narrow the list.`,
  ],
  AVX_SEAL_OLD: [401, 'Seal is too old', (o) => `The seal is ${o.seconds} seconds old; at most ${o.limit} are taken.`],
  AVX_NOT_UNSURE: [
    409,
    'Report-back is not unsure',
    (o) => `This report-back is ${o.state}; only one that is unsure is decided by a person.`,
  ],
  AVX_RULE_NAME_TAKEN: [
    409,
    'Rule has another name',
    (o) => `This changes the rule “${o.was}” but names “${o.name}”. Take the old rule out and add the new one.`,
  ],
  AVX_RULE_CHANGED: [
    409,
    'Somebody else changed the rule',
    (o) => `${o.by} changed this rule meanwhile. Look at both, and choose which one is to be in the draft.`,
  ],
  AVX_RULE_TAKEN: [
    409,
    'Name is taken',
    (o) => `There is one of that name already: ${o.sentence} Give the new one another name, or change that one.`,
  ],
  AVX_RULES_BROKEN: [422, 'Rules do not fit together', (o) => `${o.was}. ${o.fix}`],
  AVX_REHEARSAL_FAILS: [
    422,
    'A saved rehearsal fails',
    (o) => `The saved rehearsal “${o.name}” fails by these rules. ${o.was} Change the rules, or the rehearsal.`,
  ],
  AVX_REHEARSAL_CHANGED: [
    409,
    'Somebody else changed the rehearsal',
    (o) => `${o.by} changed this rehearsal meanwhile. Open it again, or save yours under another name.`,
  ],
  AVX_REHEARSALS_FULL: [409, 'Too many saved rehearsals', (o) => `There are ${o.most} already. Retire one first.`],
  AVX_RELEASE_LATER: [
    409,
    'Later releases rest on it',
    (o) => `Release ${o.number} cannot be taken back: ${o.was}. ${o.fix}`,
  ],
  AVX_NOTHING_TO_RELEASE: [
    409,
    'Nothing to make live',
    () => 'Nothing of what was seen is still to be made live. Read the page again.',
  ],
  AVX_SHORT_LINK_EXPIRED: [410, 'Short link has expired', (o) => `The short link “${o.path}” is no longer in use.`],
  AVX_CAMPAIGN_TAKEN: [
    409,
    'Campaign is there already',
    (o) => `Another campaign has the ${o.what} “${o.value}” already. Give this one its own.`,
  ],
  AVX_SERVICE_AWAY: [502, 'Outside service does not answer', (o) => `${o.why} Try again in a while.`],
  AVX_FILE_TAKEN: [
    409,
    'File is taken already',
    (o) => `“${o.name}” is being taken, or was. What it says is counted once; bring another file to change it.`,
  ],
  AVX_FILE_WRONG: [422, 'File cannot be read', (o) => `${o.was}. ${o.fix}.`],
  AVX_METHOD_WRONG: [405, 'Method is wrong', (o) => `This address takes ${o.fix}.`],
  AVX_SPOOL_AWAY: [
    503,
    'Nothing can be kept now',
    () => 'What was sent cannot be kept at the moment. Nothing was taken; send it again.',
  ],
  AVX_TOO_MANY: [
    429,
    'Too many calls',
    (o) => `At most ${o.limit} calls a minute are taken from one address. Wait ${o.seconds} seconds.`,
  ],
  AVX_DATABASE_AWAY: [503, 'Database is away', () => 'The database does not answer. Nothing was taken; send it again.'],
} satisfies Record<string, [number, string, (operands: Operands) => string]>;

type Operands = Record<string, string | number>;
export type ErrorCode = keyof typeof catalogue;

/** What was wrong with one field of what was sent. */
export interface WrongField {
  field: string;
  was: string;
  fix: string;
}

/** An answer that is an error: `code`, `status` (HTTP), `title` and the sentence as `message`. */
export class AvrixError extends Error {
  readonly status: number;
  readonly title: string;
  constructor(
    readonly code: ErrorCode,
    readonly operands: Operands = {},
    /** Every field that was wrong, where there are several. */
    readonly fields: WrongField[] = [],
    /** What a program needs to go on, as members of the problem details. */
    readonly more: Record<string, unknown> = {},
  ) {
    const [status, title, sentence] = catalogue[code] as [number, string, (operands: Operands) => string];
    super(sentence(operands));
    this.name = 'AvrixError';
    this.status = status;
    this.title = title;
  }
}

/** The error that names every field that was wrong; the first stands in its sentence. */
export const fieldsWrong = (fields: [WrongField, ...WrongField[]]): AvrixError =>
  new AvrixError('AVX_FIELD_WRONG', { ...fields[0] }, fields);

/**
 * The error as an AvrixError, or null where it is none. The pages and the server are bundled apart, so that one class
 * exists twice and `instanceof` would not know it.
 */
export function asAvrixError(error: unknown): AvrixError | null {
  return error instanceof Error && error.name === 'AvrixError' ? (error as AvrixError) : null;
}

/** The media type of an error answer (RFC 9457). */
export const problemType = 'application/problem+json';

/** An error answer as problem details (RFC 9457), with our code and, where there are some, the wrong fields. */
export function problemOf(error: AvrixError) {
  return {
    type: `/api/problems/${error.code}`,
    title: error.title,
    status: error.status,
    detail: error.message,
    code: error.code,
    ...(error.fields.length > 0 ? { fields: error.fields } : {}),
    ...error.more,
  };
}

/** A kind of error without an occasion: what its `type` leads to. Null where there is none of that code. */
export function problemKind(code: string) {
  if (!Object.hasOwn(catalogue, code)) return null;
  const [status, title] = catalogue[code as ErrorCode] as [number, string, unknown];
  return { code, title, status };
}

export const errorCodes = Object.keys(catalogue) as ErrorCode[];
