import { setImmediate } from 'node:timers/promises';
import { Op, type Transaction } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import { mayChange } from '../../core/people/rights';
import {
  factsOf,
  factWords,
  heldAgainst,
  isKept,
  rehearsalSentence,
  rehearse,
  traceOf,
  withoutMoney,
  type Fact,
  type KnownWorld,
  type Rehearsed,
} from '../../core/rehearsal';
import type { SavedRehearsal, WalkWanted } from '../../core/rehearsal/schema';
import type { RehearsalOffers, RehearsalView, SavedListView, SavedView } from '../../core/rehearsal/view';
import { formWordsOf, type ReleaseContent } from '../../core/releases';
import { readEditing } from '../../core/releases/draft-schema';
import { applyChanges } from '../../core/rules';
import { count, counted, type Sentence } from '../../core/strands';
import { listed } from '../../core/listed';
import { quoteValue } from '../../core/quote-value';
import type { Changes } from '../changes/changes';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type BusinessRow, type RehearsalRow } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor, type Draft } from '../releases/draft';
import { readCampaignLinks } from './queries';
import type { KnownWorlds } from './world';

/** Saved rehearsals of one business at most: each runs before every release. */
const mostSaved = 100;

export type Rehearsals = ReturnType<typeof makeRehearsals>;

/** A saved rehearsal that some rules break, with what they break in words. */
export interface BrokenRehearsal {
  name: string;
  broken: string[];
}

/** When (UTC, ISO 8601) a rehearsal was saved; the next change of it says so. */
interface SavedAt {
  id: string;
  changedAt: string;
}

/** Pretend visitors: walked while somebody types, and saved ones before each release. Nothing they do is stored or sent. */
export function makeRehearsals({ db, tables }: Context, draft: Draft, worlds: KnownWorlds, log: Changes) {
  async function saved(businessId: string): Promise<RehearsalRow[]> {
    const where = { businessId, retiredAt: null };
    return plain(
      await tables.rehearsals.findAll({
        where,
        order: [
          ['name', 'ASC'],
          ['id', 'ASC'],
        ],
        limit: mostSaved,
      }),
    );
  }

  async function find(businessId: string, id: string): Promise<RehearsalRow> {
    const row = await tables.rehearsals.findOne({ where: { businessId, id } });
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'saved rehearsal' });
    return row.get({ plain: true });
  }

  /** Saved rehearsals with what is known of the world they walk through. */
  async function readSaved(business: BusinessRow, content: ReleaseContent) {
    const rows = await saved(business.id);
    const lines = rows.flatMap((row) => row.lines);
    return { rows, world: rows.length > 0 ? await worlds.of(business, content, lines) : null };
  }

  /** What each of them expects, held against what it shows by some rules. */
  async function run({ rows, world }: Awaited<ReturnType<typeof readSaved>>, content: ReleaseContent) {
    const ran = [];
    for (const row of world ? rows : []) {
      // Others are answered meanwhile.
      // eslint-disable-next-line no-await-in-loop
      await setImmediate();
      const rehearsed = rehearse(row.lines, row.traits, content, world!, nowMs());
      const say = (fact: Fact) => factWords(fact, content, accountNames(world!));
      const expectations = heldAgainst(row.expected, factsOf(rehearsed)).map((one) => ({
        ...one,
        holds: isKept(one),
        words: isKept(one)
          ? `${say(one)}.`
          : `Expected: ${say(one)}. Now: ${one.now === null ? 'the rules have nothing of this name' : say({ ...one, is: one.now })}.`,
      }));
      const problems = rehearsed.lines.flatMap(({ problem }) => problem || []);
      const holds = problems.length === 0 && expectations.every((one) => one.holds);
      ran.push({ row, expectations, problems, holds });
    }
    return ran;
  }

  /** @throws AVX_FIELD_WRONG where another one that is in use is called so, AVX_REHEARSALS_FULL */
  async function refuseName(businessId: string, name: string, id: string, transaction: Transaction): Promise<void> {
    const others = { businessId, retiredAt: null, id: { [Op.ne]: id } };
    if ((await tables.rehearsals.count({ where: { ...others, name }, transaction })) > 0)
      throw fieldsWrong([
        { field: 'name', was: `a saved rehearsal is called “${name}” already`, fix: 'Use another name.' },
      ]);
    if ((await tables.rehearsals.count({ where: others, transaction })) >= mostSaved)
      throw new AvrixError('AVX_REHEARSALS_FULL', { most: mostSaved });
  }

  const noteChange = (
    businessId: string,
    personId: string,
    name: string,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) => log.note(businessId, personId, [{ kind: 'rehearsal', subject: name, was, became }], transaction);

  return {
    /** Walks lines by the draft's rules, those that are being written among them, or by the live ones. */
    async walk({ business, role }: Membership, wanted: WalkWanted): Promise<RehearsalView> {
      const { draft: edited, live } = await draft.content(business.id);
      const content = wanted.rules === 'live' ? live : applyChanges(edited, readEditing(wanted.editing));
      const lines = wanted.lines.filter((line) => line.trim() !== '');
      const known = await worlds.of(business, content, lines);
      const world = role.seesMoney ? known : withoutMoney(known);
      return toView(rehearse(lines, wanted.traits, content, world, nowMs()), world, business.timeZone);
    },

    /** What lines can be completed from: all of it was really seen. */
    async offers({ business, role }: Membership): Promise<RehearsalOffers> {
      const { draft: edited } = await draft.content(business.id);
      const [world, links] = await Promise.all([worlds.of(business, edited, []), readCampaignLinks(db, business.id)]);
      const { crm } = edited;
      return {
        arrive: links,
        paths: [...world.paths],
        forms: world.forms.map(({ form, path }) => ({ form, path })),
        presses: world.presses.flatMap(({ path, press: { text, link } }) =>
          text ? [{ words: text, path, link }] : [],
        ),
        stages: crm ? [...crm.stages.inOrder, ...crm.stages.ended] : [],
        mayChange: mayChange(role),
      };
    },

    /** Saved rehearsals with how each comes out by the draft. */
    async list({ business, role }: Membership): Promise<SavedListView> {
      const { draft: edited } = await draft.content(business.id);
      const ran = await run(await readSaved(business, edited), edited);
      const names = await draft.namesOf(ran.map(({ row }) => row.changedBy));
      const rehearsals = ran.map(({ row, ...came }): SavedView => ({
        id: row.id,
        name: row.name,
        lines: row.lines,
        traits: row.traits,
        expected: row.expected,
        changedAt: row.changedAt.toISOString(),
        by: names.get(row.changedBy) ?? 'somebody who left',
        ...came,
      }));
      return {
        sentence: listSentence(rehearsals),
        rehearsals,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /**
     * Reads what saved rehearsals need, so that a release that is being made waits for nothing outside.
     * @returns tells those that would fail by some rules
     */
    async prepare(business: BusinessRow): Promise<(content: ReleaseContent) => Promise<BrokenRehearsal[]>> {
      const ready = await readSaved(business, (await draft.content(business.id)).draft);
      return async (content) =>
        (await run(ready, content))
          .filter(({ holds }) => !holds)
          .map(({ row, problems, expectations }) => ({
            name: row.name,
            broken: [...problems, ...expectations.filter(({ holds }) => !holds).map(({ words }) => words)],
          }));
    },

    /** @returns the new one's ID and when it was made; making never overwrites. @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG, AVX_REHEARSALS_FULL */
    async save(membership: Membership, personId: string, wanted: SavedRehearsal): Promise<SavedAt> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const [id, changedAt] = [newId(), now()];
      await inTransaction(db, async (transaction) => {
        await refuseName(businessId, wanted.name, id, transaction);
        const row = { businessId, id, ...wanted, changedBy: personId, changedAt, retiredAt: null };
        await tables.rehearsals.create(row, { transaction });
        await noteChange(businessId, personId, wanted.name, '', sayLines(wanted), transaction);
      });
      return { id, changedAt: changedAt.toISOString() };
    },

    /**
     * @param seen when it was changed last, as it was seen; a change made since is not written over
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_REHEARSAL_CHANGED
     */
    async change(
      membership: Membership,
      personId: string,
      id: string,
      { seen, ...wanted }: SavedRehearsal & { seen: string },
    ): Promise<SavedAt> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const changedAt = now();
      await inTransaction(db, async (transaction) => {
        const before = await find(businessId, id);
        await refuseName(businessId, wanted.name, id, transaction);
        const [changed] = await tables.rehearsals.update(
          { ...wanted, changedBy: personId, changedAt },
          { where: { businessId, id, changedAt: new Date(seen) }, transaction },
        );
        if (changed === 0) {
          const names = await draft.namesOf([before.changedBy]);
          throw new AvrixError('AVX_REHEARSAL_CHANGED', { by: names.get(before.changedBy) ?? 'Somebody' });
        }
        await noteChange(businessId, personId, wanted.name, sayLines(before), sayLines(wanted), transaction);
      });
      return { id, changedAt: changedAt.toISOString() };
    },

    /** Takes one out of use, or back into it. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retire(membership: Membership, personId: string, id: string, isOut: boolean): Promise<void> {
      requireEditor(membership);
      const businessId = membership.business.id;
      await inTransaction(db, async (transaction) => {
        const row = await find(businessId, id);
        if (!isOut) await refuseName(businessId, row.name, id, transaction);
        await tables.rehearsals.update({ retiredAt: isOut ? now() : null }, { where: { businessId, id }, transaction });
        const [was, became] = isOut ? [sayLines(row), ''] : ['', sayLines(row)];
        await noteChange(businessId, personId, row.name, was, became, transaction);
      });
    },
  };
}

const accountNames =
  ({ accounts }: Pick<KnownWorld, 'accounts'>) =>
  (key: string): string =>
    accounts.find((one) => one.key === key)?.name ?? key;

const sayLines = ({ lines, expected }: Pick<SavedRehearsal, 'lines' | 'expected'>): string =>
  `${lines.join(' · ')}${expected.length > 0 ? `; expects ${counted(expected.length, 'thing', 'things')}` : ''}`;

function toView(rehearsed: Rehearsed, world: KnownWorld, timeZone: string): RehearsalView {
  const { followed, release, tellings } = rehearsed;
  const nameOf = accountNames(world);
  return {
    sentence: rehearsalSentence(rehearsed, formWordsOf(release)),
    lines: rehearsed.lines.map(({ at, ...line }) => ({ ...line, at: new Date(at).toISOString() })),
    trace: traceOf(followed, release, timeZone),
    requests: tellings.flatMap(({ text, request }) =>
      request
        ? [
            {
              words: text,
              head: `${request.method} ${request.path}`,
              body: request.body === undefined ? '' : JSON.stringify(request.body, null, 2),
            },
          ]
        : [],
    ),
    facts: factsOf(rehearsed).map((fact) => ({ ...fact, words: factWords(fact, release.content, nameOf) })),
    timeZone,
  };
}

function listSentence(rehearsals: SavedView[]): Sentence {
  const failing = rehearsals.filter(({ holds }) => !holds);
  if (rehearsals.length === 0)
    return {
      title: 'No rehearsal is saved yet.',
      under:
        'Walk a pretend visitor in the dock below, say what you expect, and save it: it then runs before each release.',
    };
  if (failing.length === 0)
    return {
      title: `${rehearsals.length === 1 ? 'The saved rehearsal comes' : `All ${count(rehearsals.length)} saved rehearsals come`} out as expected.`,
      under: `${rehearsals.length === 1 ? 'It runs' : 'They run'} before each release by the rules that would go live, and ${rehearsals.length === 1 ? 'stops it where it fails' : 'stop it where one fails'}.`,
    };
  return {
    title: `${counted(failing.length, 'saved rehearsal', 'saved rehearsals')} would stop the next release.`,
    under: `${listed(failing.slice(0, 5).map(({ name }) => quoteValue(name)))} ${failing.length === 1 ? 'does' : 'do'} not come out as expected by the rules in the draft.`,
  };
}
