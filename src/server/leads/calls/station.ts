import { leavesOf } from '../../../core/crms/own/mapping';
import { AvrixError, fieldsWrong } from '../../../core/errors';
import { pointerName } from '../../../core/capture/pointer';
import {
  callParts,
  callPartWords,
  dialKey,
  guessCallReading,
  readCall,
  type Call,
  type CallReading,
} from '../../../core/leads/calls';
import type {
  CallGiven,
  CallNumberGiven,
  CallSettingsGiven,
  CallSetUpView,
  CallsView,
  CallView,
} from '../../../core/leads/calls-view';
import { listed } from '../../../core/listed';
import { mayChange } from '../../../core/people/rights';
import { originWords, type Release } from '../../../core/releases';
import { count, counted, type Sentence } from '../../../core/strands';
import type { Changes } from '../../changes/changes';
import { readPagesSeen } from '../../capture/queries';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { dayIn, instantIn } from '../../days';
import { inTransaction, plain } from '../../db';
import { readFileBody, readTable } from '../../files/read-table';
import { newId, newSecret } from '../../ids';
import type { Membership } from '../../people/people';
import { requireEditor, type Draft } from '../../releases/draft';
import type { Releases } from '../../releases/releases';
import { seal, unseal } from '../../secrets';
import { called } from '../called';
import { countByNumber, countCalls, readNewestCalls, type NewestCall } from './queries';
import { readCallSettings } from './settings';
import type { CallNumberRow, CallSettingsRow } from './table';
import type { makeTakeCalls } from './take';

const mostShown = 200;

/** What one file of calls came to. */
export interface CallFile {
  taken: number;
  known: number;
  refused: { row: string; was: string; fix: string }[];
}

/** Calls: what became of each, the numbers that are dialled, and how calls come in and count. */
export function makeCallsStation(
  context: Context,
  releases: Releases,
  draft: Draft,
  changes: Changes,
  takeCalls: ReturnType<typeof makeTakeCalls>,
) {
  const { db, tables, config } = context;

  async function view({ business, role }: Membership): Promise<CallsView> {
    const [rows, totals, byNumber, numbers, release] = await Promise.all([
      readNewestCalls(db, business.id, mostShown),
      countCalls(db, business.id),
      countByNumber(db, business.id),
      tables.callNumbers.findAll({ where: { businessId: business.id }, order: [['madeAt', 'ASC']] }),
      releases.live(business.id),
    ]);
    const countOf = new Map(byNumber.map((row) => [row.key, row]));
    const known = plain(numbers);
    const described = new Set(known.map((row) => row.dialKey));
    return {
      sentence: sentenceOf(totals),
      calls: rows.map((row) => toView(row, release, role.seesPeople, config.secretKey)),
      total: totals.all,
      numbers: known.map(({ id, number, name, source, medium, campaign, content, retiredAt, dialKey: key }) => ({
        id,
        number,
        name,
        source,
        medium,
        campaign,
        content,
        isRetired: retiredAt !== null,
        calls: countOf.get(key)?.calls ?? 0,
        enquiries: countOf.get(key)?.enquiries ?? 0,
      })),
      unknown: byNumber
        .filter(({ key }) => !described.has(key))
        .map(({ number, calls }) => ({ number, calls }))
        .slice(0, 20),
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  const note = (
    { business, role }: Membership,
    subject: string,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) => changes.note(business.id, role.personId, [{ kind: 'lead', subject, was, became }], transaction);

  /** Stores settings over those that there are. */
  async function saveSettings(
    membership: Membership,
    given: Partial<CallSettingsRow>,
    said: { was: string; became: string },
  ): Promise<void> {
    const before = await readCallSettings(context, membership.business.id);
    await inTransaction(db, async (transaction) => {
      await tables.callSettings.upsert({ ...before, ...given, changedAt: now() }, { transaction });
      await note(membership, 'Calls', said.was, said.became, transaction);
    });
  }

  return {
    view,

    async setUp({ business, role }: Membership): Promise<CallSetUpView> {
      const since = dayIn(business.timeZone, nowMs() - 28 * 86_400_000);
      const [settings, { draft: edited, live, changed }, pages] = await Promise.all([
        readCallSettings(context, business.id),
        draft.content(business.id),
        readPagesSeen(db, business.id, since),
      ]);
      const { proof, header, reading, columnsRead, shortest, missedCount, sameDays, lastAt, lastProblem } = settings;
      const sent: unknown = settings.lastSent ? unseal(config.secretKey, settings.lastSent) : null;
      return {
        sentence: setUpSentence(settings, live.capture.callCodes.length, edited.capture.callCodes.length),
        address: `${config.edgeOrigin}/calls/${business.key}`,
        hasSecret: settings.secret !== null,
        settings: { proof, header, reading, columnsRead, shortest, missedCount, sameDays },
        lastAt: lastAt?.toISOString() ?? null,
        lastProblem,
        lastPlaces: role.seesPeople && sent ? leavesOf(sent).map(({ at, value }) => ({ at, value })) : [],
        pages: pages.map(({ page, arrivals }) => ({ path: page.replace(/^[^/]+/, '') || '/', arrivals })),
        rules: edited.capture.callCodes,
        changed,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** @throws AVX_ROLE_TOO_SMALL */
    async setSettings(membership: Membership, given: CallSettingsGiven): Promise<void> {
      requireEditor(membership);
      const before = await readCallSettings(context, membership.business.id);
      await saveSettings(membership, given, { was: countWords(before), became: countWords(given) });
    },

    /** A secret for the telephone system, shown this once; the one before it is known no more. @throws AVX_ROLE_TOO_SMALL */
    async makeSecret(membership: Membership): Promise<{ secret: string }> {
      requireEditor(membership);
      const secret = newSecret();
      const { secret: before } = await readCallSettings(context, membership.business.id);
      const sealed = { secret: seal(config.secretKey, secret) };
      await saveSettings(membership, sealed, { was: before ? 'another secret' : 'no secret', became: 'a new secret' });
      return { secret };
    },

    /** @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where another number is the same */
    async saveNumber(membership: Membership, given: CallNumberGiven): Promise<CallsView> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const key = dialKey(given.number);
      const others = plain(await tables.callNumbers.findAll({ where: { businessId } }));
      const before = others.find(({ id }) => id === given.id);
      if (given.id !== '' && !before) throw new AvrixError('AVX_NOT_FOUND', { what: 'number' });
      const same = others.find((row) => row.dialKey === key && row.id !== given.id);
      if (same)
        throw fieldsWrong([
          { field: 'number', was: `“${same.name}” has this number already`, fix: 'Change that one, or give another.' },
        ]);
      const row: CallNumberRow = {
        ...given,
        id: given.id || newId(),
        businessId,
        dialKey: key,
        madeAt: before?.madeAt ?? now(),
        retiredAt: before?.retiredAt ?? null,
      };
      await inTransaction(db, async (transaction) => {
        await tables.callNumbers.upsert(row, { transaction });
        const was = before ? numberWords(before) : 'not known';
        await note(membership, `Number “${row.name}”`, was, numberWords(row), transaction);
      });
      return view(membership);
    },

    /** Takes a number out of use, or into use again; calls to it keep what they came from. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retireNumber(membership: Membership, id: string, retired: boolean): Promise<CallsView> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      const row = (await tables.callNumbers.findOne({ where }))?.get({ plain: true });
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'number' });
      await inTransaction(db, async (transaction) => {
        await tables.callNumbers.update({ retiredAt: retired ? now() : null }, { where, transaction });
        const [was, became] = retired ? ['in use', 'retired'] : ['retired', 'in use'];
        await note(membership, `Number “${row.name}”`, was!, became!, transaction);
      });
      return view(membership);
    },

    /** Takes one call that somebody types in. @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG */
    async add(membership: Membership, given: CallGiven): Promise<CallsView> {
      requireEditor(membership);
      const { business } = membership;
      const startedAt = instantIn(business.timeZone, given.startedAt);
      if (startedAt === null)
        throw fieldsWrong([
          { field: 'startedAt', was: 'it is no time', fix: 'Write it as 2027-02-15 17:00, or 15/02/2027 17:00.' },
        ]);
      const seconds = Math.round(given.minutes * 60);
      const { dialled, caller, answered, reference } = given;
      const call: Call = { dialled, caller, answered, reference, startedAt, seconds, number: `by hand ${newId()}` };
      await takeCalls.store(business.id, [call], 'hand');
      return view(membership);
    },

    /**
     * Takes the calls of a file, by the columns of the last one where it has the same, else by their names. Rows that cannot be
     * read are named; the others are taken.
     * @throws AVX_ROLE_TOO_SMALL, AVX_FILE_WRONG, AVX_FIELD_WRONG where a column is missing
     */
    async readFile(membership: Membership, request: Request): Promise<CallFile> {
      requireEditor(membership);
      const { business } = membership;
      const { rows, problems } = await readTable(await readFileBody(request), []);
      const names = Object.keys(rows[0]?.cells ?? {});
      const { columnsRead } = await readCallSettings(context, business.id);
      const columns = readingFor(names, columnsRead);
      const calls: Call[] = [];
      const refused: CallFile['refused'] = problems.map(({ row, was, fix }) => ({ row: `row ${row}`, was, fix }));
      for (const { row, cells } of rows) {
        const read = readCall(columns, cells, (text) => instantIn(business.timeZone, text));
        if (read.ok) calls.push(read.call);
        else refused.push({ row: `row ${row}`, was: read.was, fix: read.fix });
      }
      const { taken } = await takeCalls.store(business.id, calls, 'file');
      const said = { was: '', became: `${counted(taken, 'call', 'calls')} from a file` };
      await saveSettings(membership, { columnsRead: columns }, said);
      return { taken, known: calls.length - taken, refused };
    },
  };
}

/** What is read of the columns of a file: as the last one had them, else what their names tell. @throws AVX_FIELD_WRONG */
function readingFor(names: string[], before: CallReading | null): CallReading {
  const has = (pointer: string) => pointer === '' || names.includes(pointerName(pointer));
  const columns = before && callParts.every((part) => has(before[part])) ? before : guessCallReading(names);
  const [missing, ...others] = (['dialled', 'startedAt'] as const)
    .filter((part) => columns[part] === '')
    .map((part) => ({
      field: part,
      was: `no column holds ${callPartWords[part]}; there are ${listed(names.slice(0, 20))}`,
      fix: `Call one of them ${part === 'dialled' ? 'dialled' : 'started_at'}, or say on the set-up page which it is.`,
    }));
  if (missing) throw fieldsWrong([missing, ...others]);
  return columns;
}

function toView(row: NewestCall, release: Release, seesPeople: boolean, key: Buffer): CallView {
  const caller = row.caller && seesPeople ? String(unseal(key, row.caller)) : '';
  const known = row.company !== null && (row.company || row.name);
  return {
    id: row.id,
    enquiryId: row.enquiryId,
    words: known ? called({ company: row.company, name: row.name }, seesPeople) : caller || 'caller not known',
    line: row.line ?? row.dialled,
    startedAt: row.startedAt.toISOString(),
    seconds: row.seconds,
    answered: row.answered,
    became: row.became,
    found: row.found,
    cameFrom: row.source === null ? '' : originWords(release, row.source, row.medium ?? '', row.referrer ?? ''),
  };
}

const numberWords = ({ number, source, medium, campaign, content }: Omit<CallNumberGiven, 'id' | 'name'>): string =>
  [
    number,
    source ? `comes from ${[source, medium, campaign, content].filter(Boolean).join(', ')}` : 'for everybody',
  ].join(', ');

const countWords = ({
  shortest,
  missedCount,
  sameDays,
}: Pick<CallSettingsRow, 'shortest' | 'missedCount' | 'sameDays'>) =>
  `from ${counted(shortest, 'second', 'seconds')}; missed ones ${missedCount ? 'count' : 'do not count'}; one enquiry within ${counted(sameDays, 'day', 'days')}`;

function sentenceOf({
  all,
  enquiries,
  known,
  missed,
  short,
  wrongCodes,
}: Awaited<ReturnType<typeof countCalls>>): Sentence {
  if (all === 0)
    return {
      title: 'No call is known yet.',
      under: 'Have your telephone system send them, import a file, or add one by hand.',
    };
  const aside = [
    missed > 0 ? `${count(missed)} missed` : '',
    short > 0 ? `${count(short)} too short to be an enquiry` : '',
    wrongCodes > 0 ? `${counted(wrongCodes, 'code', 'codes')} that no visit has` : '',
  ].filter(Boolean);
  return {
    title:
      enquiries === 0
        ? `None of ${counted(all, 'call', 'calls')} is an enquiry.`
        : `${count(known)} of ${counted(enquiries, 'caller', 'callers')} ${known === 1 ? 'is' : 'are'} known by what brought them.`,
    under: `${counted(all, 'call', 'calls')} in all${aside.length > 0 ? `, ${listed(aside)}` : ''}.`,
  };
}

function setUpSentence({ secret, lastProblem }: CallSettingsRow, live: number, edited: number): Sentence {
  if (lastProblem) return { title: 'The last call that was sent could not be read.', under: lastProblem };
  const codes =
    live > 0
      ? 'Pages show a reference code, by which a call finds its visit.'
      : edited > 0
        ? 'The reference code is shown on pages once it is live.'
        : 'Without a reference code on the page, or a number for each source, nobody knows where a call came from.';
  return {
    title: secret ? 'Your telephone system can send calls.' : 'Your telephone system cannot send calls yet.',
    under: codes,
  };
}
