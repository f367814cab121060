import Papa from 'papaparse';
import { parseTemplate } from 'url-template';
import { pointerName, readPointer, writePointer } from '../../capture/pointer';
import { hashMail } from '../../events/mail-hash';
import { writeAmount } from '../../outcomes/worth';
import type { Answer, OutgoingRequest } from '../../outgoing';
import {
  mailHashField,
  readStatus,
  type BatchAnswer,
  type ChangeRow,
  type PlatformContract,
  type RowAnswer,
  type TellingRow,
} from '../contract';
import { hashTelephone } from '../hash-telephone';
import { readJson } from '../read-json';
import type { OwnPlatform, PlatformTelling } from '../schema';
import { knowsPeopleBy, ownLinks } from './links';
import { platformReadings, type PlatformReading } from './readings';

/** What a row holds for a reading. `text` is what the rule always says. */
function valueOf(reading: PlatformReading, text: string, row: TellingRow | ChangeRow) {
  const { key, outcome, eventId, happenedAt, worth, fields = [] } = row;
  switch (reading) {
    case 'click_id':
      return key.kind === 'click_id' ? key.value : undefined;
    case 'outcome':
      return outcome;
    case 'event_id':
      return eventId;
    case 'happened_at':
      return new Date(happenedAt).toISOString();
    case 'happened_at_seconds':
      return Math.floor(happenedAt / 1000);
    case 'happened_at_ms':
      return happenedAt;
    case 'worth':
      return Number(writeAmount(worth));
    case 'worth_text':
      return writeAmount(worth);
    case 'worth_minor':
      return worth.minor;
    case 'currency':
      return worth.currency;
    case 'change':
      return 'change' in row ? (row.change === 'taken_back' ? 'taken-back' : row.change) : 'new';
    case 'mail_hash':
      return key.kind === 'mail_hash' ? key.value : fields.find(([name]) => name === mailHashField)?.[1];
    case 'telephone_hash':
      return key.kind === 'telephone_hash' ? key.value : undefined;
    case 'fields':
      return Object.fromEntries(fields.filter(([name]) => name !== mailHashField));
    case 'text':
      return text;
  }
}

/** One row as the rule writes it. */
const writeRow = ({ fields }: PlatformTelling, row: TellingRow): unknown =>
  fields.reduce<unknown>((document, { at, reading, text }) => {
    const value = valueOf(reading, text, row);
    return value === undefined ? document : writePointer(document, at, value);
  }, {});

/** Where the account's token goes into a path; the server puts it there. */
const tokenAt = '{token}';

/**
 * A path written as a template of RFC 6570, with what one row holds: each reading under its name, and what an event's wire
 * sends along under its own.
 */
function fillPath(path: string, row: TellingRow): string {
  const values = {
    ...Object.fromEntries(row.fields ?? []),
    ...Object.fromEntries(platformReadings.map((reading) => [reading, valueOf(reading, '', row)])),
  } as Record<string, string | number | Record<string, string>>;
  return path
    .split(tokenAt)
    .map((part) => parseTemplate(part).expand(values))
    .join(tokenAt);
}

/** Rows as a file: a heading, then a line each (RFC 4180). What a row does not have is an empty cell. */
function writeFile({ fields }: PlatformTelling, rows: TellingRow[]): string {
  const cell = (value: unknown) => (typeof value === 'object' ? JSON.stringify(value) : String(value ?? ''));
  return Papa.unparse(
    {
      fields: fields.map(({ at }) => pointerName(at)),
      data: rows.map((row) => fields.map(({ reading, text }) => cell(valueOf(reading, text, row)))),
    },
    { newline: '\r\n' },
  );
}

function writeBatch(telling: PlatformTelling, rows: TellingRow[], path = telling.path): OutgoingRequest {
  const { method, many, rowsAt, writes } = telling;
  const headers = Object.fromEntries(telling.headers.map(({ name, value }) => [name.toLowerCase(), value]));
  if (writes === 'csv')
    return { method, path, headers, file: { type: 'text/csv; charset=utf-8', text: writeFile(telling, rows) } };
  const written = rows.map((row) => writeRow(telling, row));
  return {
    method,
    path: many ? path : fillPath(path, rows[0]!),
    headers,
    body: method === 'GET' ? undefined : many ? writePointer({}, rowsAt, written) : written[0],
  };
}

const hashOf = { mail: hashMail, telephone: hashTelephone };

/** Whether a call tells many rows: a file always does. */
const takesMany = ({ many, writes }: PlatformTelling): boolean => many || writes === 'csv';

/** Statuses that say something of the platform and nothing of the row. */
const ofThePlatform = new Set([401, 403, 404, 405, 408, 425, 429]);

/**
 * What an answer means by the rule. A platform that answers for rows is read by what it says of each; one that does not,
 * by its status. A call with one row may say what is wrong with it by a status of 4xx too.
 */
function readAnswer(
  telling: PlatformTelling,
  answer: Answer,
  rows: TellingRow[],
  good: readonly string[],
): BatchAnswer {
  const { answer: rule } = telling;
  const many = takesMany(telling);
  const failed = readStatus(answer);
  const isOfRow = !many && answer.status >= 400 && answer.status < 500 && !ofThePlatform.has(answer.status);
  const saysWord = rule.saysAt !== '' || rule.taken.length > 0;
  if (failed && !(isOfRow && saysWord)) return failed;
  if (!saysWord) return { kind: 'rows', rows: rows.map(({ eventId }) => taken(eventId)) };
  const notUnderstood: BatchAnswer = failed ?? {
    kind: 'away',
    status: 'answer not understood',
    answer: answer.body.slice(0, 200),
    retryAfter: undefined,
  };
  const json = readJson(answer.body);
  const body = json === undefined && rule.saysAt === '' ? answer.body : readPointer(json, rule.rowsAt);
  const all = many ? body : [body];
  if (!Array.isArray(all)) return notUnderstood;
  const read = all.flatMap((one, at): RowAnswer[] => {
    const eventId = many && rule.idAt !== '' ? asText(readPointer(one, rule.idAt)) : rows[at]?.eventId;
    const said = asText(readPointer(one, rule.saysAt));
    if (!eventId || said === '' || !rows.some((row) => row.eventId === eventId)) return [];
    return [good.includes(said) ? taken(eventId) : { eventId, taken: false, answer: said.slice(0, 120) }];
  });
  return read.length === 0 ? notUnderstood : { kind: 'rows', rows: read };
}

const taken = (eventId: string): RowAnswer => ({ eventId, taken: true, day: '' });
const asText = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? String(value).trim() : '';

/**
 * The contract of a platform that a business describes itself. It has no report: its answer is what confirms a row. What
 * it has is corrected by the same call under the same event ID; "told before" is no answer to that.
 */
export function ownContract(platform: OwnPlatform): PlatformContract {
  const { telling, limits } = platform;
  const { taken: good, toldBefore } = telling.answer;
  const call = (rows: TellingRow[]) => writeBatch(telling, rows);
  const { every, at } = telling.files;
  const contract: PlatformContract = {
    ...ownLinks(platform),
    limits: { ...limits, rowsPerCall: takesMany(telling) ? limits.rowsPerCall : 1 },
    hashes: Object.fromEntries(knowsPeopleBy(telling).map((key) => [key, hashOf[key]])),
    authorised: telling.path.includes(tokenAt) ? 'path' : telling.token,
    repeats: platform.repeats,
    writeBatch: call,
    readAnswer: (answer, rows) => readAnswer(telling, answer, rows, [...good, ...toldBefore]),
  };
  if (telling.writes === 'csv') contract.takesFiles = true;
  if (contract.takesFiles && every !== 'due') contract.files = { every, at };
  if (telling.testPath !== '')
    contract.tests = {
      writeBatch: (rows) => writeBatch(telling, rows, telling.testPath),
      readAnswer: contract.readAnswer,
    };
  if (limits.changeWithinDays > 0)
    contract.changes = {
      withinDays: limits.changeWithinDays,
      writeBatch: call,
      readAnswer: (answer, rows) => readAnswer(telling, answer, rows, good),
    };
  return contract;
}
