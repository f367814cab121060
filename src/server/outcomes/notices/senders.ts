import { businessKey } from '../../../core/businesses/key';
import { leavesOf } from '../../../core/crms/own/mapping';
import { recordsIn } from '../../../core/crms/own';
import { AvrixError, fieldsWrong } from '../../../core/errors';
import {
  documentOf,
  guessNoticeReading,
  meaningOf,
  noticeParts,
  readNotice,
  usualReading,
  type Notice,
  type NoticeMeans,
} from '../../../core/outcomes/notices';
import type { SenderGiven } from '../../../core/outcomes/notices/schema';
import type { SenderSetUpView, TriedPostback } from '../../../core/outcomes/notices/view';
import { mayChange } from '../../../core/people/rights';
import { listed } from '../../../core/listed';
import { quoteValue } from '../../../core/quote-value';
import { count, counted, orderIdOf, subscriptionIdOf, type Sentence } from '../../../core/strands';
import type { Changes } from '../../changes/changes';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { instantIn } from '../../days';
import { inTransaction, markWork, plain, type BusinessRow } from '../../db';
import { newId, newSecret } from '../../ids';
import type { Membership } from '../../people/people';
import { requireEditor } from '../../releases/draft';
import { seal, unseal } from '../../secrets';
import { moneyWords } from '../../strands/trace-events';
import { countSteps, readAbout } from './queries';
import type { SenderRow } from './table';

const partSize = 2000;

export const readSenders = async ({ tables }: Pick<Context, 'tables'>, businessId: string): Promise<SenderRow[]> =>
  plain(await tables.senders.findAll({ where: { businessId }, order: [['madeAt', 'ASC']], limit: 200 }));

/** Outside programs that post: how each proves itself, how what it posts is read, and what its steps mean. */
export function makeSenders(context: Context, changes: Changes) {
  const { db, tables, config } = context;

  async function senderOf(businessId: string, id: string): Promise<SenderRow> {
    const row = await tables.senders.findOne({ where: { businessId, id } });
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'sender' });
    return row.get({ plain: true });
  }

  const addressOf = (business: BusinessRow, { key }: Pick<SenderRow, 'key'>) =>
    `${config.edgeOrigin}/post/${business.key}/${key}`;

  /** Has what a sender posted about followed anew, where its steps mean something else now. */
  async function followAgain(businessId: string, senderId: string): Promise<void> {
    for (const [kind, idOf] of [['order', orderIdOf] as const, ['subscription', subscriptionIdOf] as const])
      for (let after: string | undefined = ''; after !== undefined;) {
        // eslint-disable-next-line no-await-in-loop -- a part after the other, each bounded
        const about: string[] = await readAbout(db, businessId, senderId, kind, after, partSize);
        const subjects = about.map((number) => idOf(businessId, number));
        // eslint-disable-next-line no-await-in-loop
        await markWork(db, kind, businessId, subjects.sort(), now());
        after = about.length < partSize ? undefined : about.at(-1);
      }
  }

  return {
    /** One sender, or where `id` is "new" the usual ways of one. @throws AVX_NOT_FOUND */
    async setUp({ business, role }: Membership, id: string): Promise<SenderSetUpView> {
      const common = { mayChange: mayChange(role), timeZone: business.timeZone };
      if (id === 'new')
        return {
          ...common,
          id: '',
          sentence: {
            title: 'Who posts what became of orders and payments?',
            under:
              'A shop’s back end, a payment service, a partner network: give it a name, then an address of its own.',
          },
          given: usualSender(business.currency),
          address: '',
          hasSecret: false,
          isRetired: false,
          lastAt: null,
          lastProblem: '',
          lastPlaces: [],
          steps: [],
        };
      const sender = await senderOf(business.id, id);
      const steps = await countSteps(db, business.id, id);
      const { name, proof, header, reading, refundSays, inMinor, currency, lastAt, lastProblem } = sender;
      const sent: unknown = sender.lastSent ? unseal(config.secretKey, sender.lastSent) : null;
      const posted = steps.map(({ step, n }) => ({
        says: step,
        count: n,
        isKnown: meaningOf(sender.steps, step) !== null,
      }));
      return {
        ...common,
        id: sender.id,
        sentence: senderSentence(sender, posted),
        given: { name, proof, header, reading, steps: sender.steps, refundSays, inMinor, currency },
        address: addressOf(business, sender),
        hasSecret: sender.secret !== null,
        isRetired: sender.retiredAt !== null,
        lastAt: lastAt?.toISOString() ?? null,
        lastProblem,
        lastPlaces: role.seesPeople && sent ? leavesOf(sent).map(({ at, value }) => ({ at, value })) : [],
        steps: posted,
      };
    },

    /** @returns the sender's ID @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where another has its name */
    async save(membership: Membership, { id, ...given }: SenderGiven & { id: string }): Promise<{ id: string }> {
      requireEditor(membership);
      const { business, role } = membership;
      const before = id === '' ? null : await senderOf(business.id, id);
      const known = await readSenders(context, business.id);
      if (known.some((one) => one.id !== id && one.name.toLowerCase() === given.name.toLowerCase()))
        throw fieldsWrong([
          { field: 'name', was: `there is a sender ${quoteValue(given.name)} already`, fix: 'Give it another name.' },
        ]);
      const row: SenderRow = {
        secret: null,
        lastAt: null,
        lastSent: null,
        lastProblem: '',
        madeAt: now(),
        retiredAt: null,
        key: businessKey(given.name, new Set(known.map(({ key }) => key))),
        ...before,
        ...given,
        businessId: business.id,
        id: before?.id ?? newId(),
      };
      await inTransaction(db, async (transaction) => {
        await tables.senders.upsert(row, { transaction });
        const said = {
          kind: 'report-back' as const,
          subject: `Postbacks of ${given.name}`,
          was: before ? stepsWords(before.steps) : '',
          became: stepsWords(given.steps),
        };
        await changes.note(business.id, role.personId, [said], transaction);
      });
      if (before) await followAgain(business.id, row.id);
      return { id: row.id };
    },

    /** A secret for a sender, shown this once; the one before it is known no more. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async makeSecret(membership: Membership, id: string): Promise<{ secret: string }> {
      requireEditor(membership);
      const { business, role } = membership;
      const sender = await senderOf(business.id, id);
      const secret = newSecret();
      await inTransaction(db, async (transaction) => {
        await tables.senders.update(
          { secret: seal(config.secretKey, secret) },
          { where: { businessId: business.id, id }, transaction },
        );
        const was = sender.secret ? 'another secret' : 'no secret';
        const said = {
          kind: 'report-back' as const,
          subject: `Postbacks of ${sender.name}`,
          was,
          became: 'a new secret',
        };
        await changes.note(business.id, role.personId, [said], transaction);
      });
      return { secret };
    },

    /** Takes a sender out of use, or into use again; what it posted stays. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retire(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      const { name } = await senderOf(business.id, id);
      await inTransaction(db, async (transaction) => {
        const where = { businessId: business.id, id };
        await tables.senders.update({ retiredAt: retired ? now() : null }, { where, transaction });
        const [was, became] = retired ? ['in use', 'retired'] : ['retired', 'in use'];
        const said = { kind: 'report-back' as const, subject: `Postbacks of ${name}`, was: was!, became: became! };
        await changes.note(business.id, role.personId, [said], transaction);
      });
    },

    /** What a pasted example says, part by part, as a sender is written. Nothing is stored. */
    tryOut({ business }: Membership, sender: SenderGiven, text: string): TriedPostback {
      const document = documentOf(text);
      const [first] = document === null ? [] : recordsIn(document, '');
      const leaves = leavesOf(first ?? null);
      const guessed = guessNoticeReading(leaves.map(({ at }) => at));
      if (first === undefined)
        return {
          parts: [],
          says: '',
          problem: 'It is neither JSON, nor a form, nor an address with a query.',
          isRead: false,
          guessed,
        };
      const partAt = new Map(noticeParts.map((part) => [sender.reading[part], part]));
      const read = readNotice(sender, first, nowMs(), (written) => instantIn(business.timeZone, written));
      return {
        parts: leaves.map(({ at, value }) => ({ at, value, part: partAt.get(at) ?? null })),
        says: read.ok ? saysWords(read.notice, meaningOf(sender.steps, read.notice.step), sender) : '',
        problem: read.ok ? '' : `${read.was.charAt(0).toUpperCase()}${read.was.slice(1)}. ${read.fix}`,
        isRead: read.ok,
        guessed,
      };
    },
  };
}

const usualSender = (currency: string): SenderGiven => ({
  name: '',
  proof: 'address',
  header: 'x-signature',
  reading: usualReading,
  steps: [
    { says: 'refund', means: 'refund' },
    { says: 'chargeback', means: 'chargeback' },
  ],
  refundSays: 'back',
  inMinor: false,
  currency,
});

const meansWords: Record<NoticeMeans, string> = {
  happens: 'something that outcomes can be reached by',
  refund: 'a refund',
  chargeback: 'a chargeback',
  nothing: 'nothing that counts',
};

const stepsWords = (steps: SenderGiven['steps']): string =>
  listed(steps.map(({ says, means }) => `${quoteValue(says)} means ${meansWords[means]}`)) || 'no step means anything';

/** In one sentence, what a postback says. */
function saysWords(
  { step, about, payment, money, isTest }: Notice,
  means: NoticeMeans | null,
  { refundSays }: SenderGiven,
): string {
  const what =
    means === null ? `${quoteValue(step)}, which nobody explained yet` : `${quoteValue(step)}, ${meansWords[means]}`;
  const of = `of ${about.kind} ${quoteValue(about.number)}${payment ? `, payment ${quoteValue(payment)}` : ''}`;
  const isBack = means === 'refund' || means === 'chargeback';
  const amount = money
    ? `, ${moneyWords(money)}${isBack ? (refundSays === 'left' ? ' left' : ' given back') : ''}`
    : isBack
      ? ', all of it'
      : '';
  return `${isTest ? 'A test: ' : ''}${what} ${of}${amount}.`;
}

function senderSentence(
  { name, secret, lastProblem, retiredAt }: SenderRow,
  steps: { says: string; count: number; isKnown: boolean }[],
): Sentence {
  if (retiredAt) return { title: `${name} is retired.`, under: 'What it posted stays; nothing more is taken.' };
  if (!secret)
    return { title: `${name} has no secret yet.`, under: 'Make one: until then nothing that it posts is taken.' };
  if (lastProblem) return { title: `The last postback of ${name} could not be read.`, under: lastProblem };
  const unknown = steps.filter(({ isKnown }) => !isKnown);
  if (unknown.length > 0)
    return {
      title: `Nobody said what ${listed(unknown.map(({ says }) => quoteValue(says)))} means.`,
      under: 'Say so below: what was posted already counts too.',
    };
  const posted = steps.reduce((sum, one) => sum + one.count, 0);
  return {
    title: posted === 0 ? `${name} posted nothing yet.` : `${name} posted ${counted(posted, 'time', 'times')}.`,
    under:
      posted === 0
        ? 'Paste an example to see how it is read.'
        : `${count(steps.length)} kinds of step, each explained.`,
  };
}
