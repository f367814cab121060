import { meaningOf } from '../../../core/outcomes/notices';
import type { NoticeListQuery } from '../../../core/outcomes/notices/schema';
import type { NoticeStands, NoticesView, NoticeView } from '../../../core/outcomes/notices/view';
import { mayChange } from '../../../core/people/rights';
import { quoteValue } from '../../../core/quote-value';
import { counted, type Sentence } from '../../../core/strands';
import type { Context } from '../../context';
import type { BusinessRow, RoleRow } from '../../db';
import { inParts, mostInFile, pageSize } from '../../lists';
import type { Membership } from '../../people/people';
import { moneyWords } from '../../strands/trace-events';
import { countBySender, countNotices, countSteps, findNotices, readNoticeRows, type NoticeQueryRow } from './queries';
import { readSenders } from './senders';
import type { SenderRow } from './table';

/** What outside programs posted, and what became of each. */
export function makeNotices(context: Context) {
  const { db } = context;
  return {
    async page({ business, role }: Membership, query: NoticeListQuery): Promise<NoticesView> {
      const part = { limit: pageSize, offset: (query.page - 1) * pageSize };
      const [ids, total, senders, bySender, steps] = await Promise.all([
        findNotices(db, business.id, query, part),
        countNotices(db, business.id, query),
        readSenders(context, business.id),
        countBySender(db, business.id),
        countSteps(db, business.id),
      ]);
      const rows = await readNoticeRows(db, business.id, ids);
      const postedOf = new Map(bySender.map(({ senderId, n }) => [senderId, n]));
      const unknown = steps.flatMap(({ senderId, step, n }) => {
        const sender = senders.find(({ id }) => id === senderId);
        return sender && meaningOf(sender.steps, step) === null ? [{ sender, step, n }] : [];
      });
      return {
        sentence: pageSentence(
          senders,
          bySender.reduce((sum, { n }) => sum + n, 0),
          unknown,
        ),
        rows: rows.map((row) => toView(row, role)),
        total,
        pageSize,
        timeZone: business.timeZone,
        senders: senders.map(({ id, name, secret, retiredAt, lastAt, lastProblem }) => ({
          id,
          name,
          isRetired: retiredAt !== null,
          hasSecret: secret !== null,
          posted: postedOf.get(id) ?? 0,
          lastAt: lastAt?.toISOString() ?? null,
          lastProblem,
        })),
        mayChange: mayChange(role),
      };
    },

    /** All rows of the list, in its order, part by part. */
    async *all(business: BusinessRow, role: RoleRow, query: NoticeListQuery): AsyncGenerator<NoticeView[]> {
      const ids = await findNotices(db, business.id, query, { limit: mostInFile });
      yield* inParts(ids, async (part) =>
        (await readNoticeRows(db, business.id, part)).map((row) => toView(row, role)),
      );
    },
  };
}

function toView(row: NoticeQueryRow, { seesMoney }: RoleRow): NoticeView {
  return {
    id: row.id,
    sender: row.name,
    senderId: row.senderId,
    step: row.step,
    about: `${row.aboutKind} ${row.aboutNumber}`,
    payment: row.payment,
    amount:
      row.amountMinor === null || !seesMoney
        ? ''
        : moneyWords({ minor: Number(row.amountMinor), currency: row.currency }),
    happenedAt: row.happenedAt.toISOString(),
    stands: standsOf(row),
  };
}

function standsOf({ isTest, steps, step, aboutKind, subjectId, worthChange, isReached }: NoticeQueryRow): NoticeStands {
  if (isTest) return 'test';
  const means = meaningOf(steps, step);
  if (means === null) return 'step not known';
  if (means === 'nothing') return 'not counted';
  if (aboutKind === 'order' && subjectId === null) return 'not known yet';
  if (means === 'happens' || isReached) return isReached ? 'counted' : 'reaches nothing';
  if (worthChange === 'taken_back') return 'taken back';
  return worthChange === 'revalued' ? 'worth changed' : 'changes nothing';
}

function pageSentence(
  senders: SenderRow[],
  posted: number,
  unknown: { sender: SenderRow; step: string; n: number }[],
): Sentence {
  const inUse = senders.filter(({ retiredAt }) => retiredAt === null);
  if (inUse.length === 0)
    return {
      title: 'Nobody posts refunds and renewals yet.',
      under:
        'Add a sender: it gets an address to post to, and what was told to platforms is corrected by what it says.',
    };
  const broken = inUse.find(({ lastProblem }) => lastProblem !== '');
  const [first] = unknown;
  if (broken) return { title: `The last postback of ${broken.name} could not be read.`, under: broken.lastProblem };
  if (first)
    return {
      title: `${first.sender.name} posted ${quoteValue(first.step)} ${counted(first.n, 'time', 'times')}, and nobody said what it means.`,
      under: `Open ${first.sender.name} and say so: what was posted already counts too.`,
    };
  return {
    title:
      posted === 0
        ? 'Nothing was posted yet.'
        : `${counted(posted, 'postback', 'postbacks')} of ${counted(inUse.length, 'sender', 'senders')}, each read.`,
    under:
      posted === 0
        ? 'Give the sender its address, and paste an example to see how it is read.'
        : 'One that comes twice, or late, changes nothing.',
  };
}
