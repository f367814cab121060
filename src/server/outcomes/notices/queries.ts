import type { Sequelize } from 'sequelize';
import type { NoticeListQuery } from '../../../core/outcomes/notices/schema';
import { likeText, pick, selectOne, selectRows, text, uuid, whole, yes, type Read } from '../../db';
import { orders } from '../../orders/table';
import { inOrderOf, type Part } from '../../lists';
import { outcomes } from '../table';
import { notices, senders, type NoticeRow } from './table';

/* Postbacks with their sender and what became of what they are about, which the models cannot join. */

const listed = {
  ...pick(
    notices,
    [
      'id',
      'senderId',
      'step',
      'aboutKind',
      'aboutNumber',
      'payment',
      'amountMinor',
      'currency',
      'happenedAt',
      'isTest',
    ],
    'n',
  ),
  ...pick(senders, ['name', 'steps'], 's'),
  /** The order or the subscription that it is about, where that is known. */
  subjectId: orders.columns.id.of('COALESCE(o.id, u.id)').nullable(),
  /** How the worth of what it is about changed, and whether an outcome was reached by it. */
  worthChange: outcomes.columns.worthChange
    .of(
      '(SELECT MAX(c.worth_change) FROM outcomes c WHERE c.business_id = n.business_id AND c.subject_id = COALESCE(o.id, u.id))',
    )
    .nullable(),
  isReached: yes()
    .of(`EXISTS (SELECT 1 FROM outcomes p WHERE p.business_id = n.business_id AND p.subject_id = COALESCE(o.id, u.id)
    AND JSON_VALUE(p.evidence, '$.kind') = 'postback' AND JSON_VALUE(p.evidence, '$.step') COLLATE utf8mb4_nopad_bin = n.step)`),
};
export type NoticeQueryRow = Read<typeof listed>;

function conditionOf(businessId: string, { find, sender }: Pick<NoticeListQuery, 'find' | 'sender'>) {
  const like = likeText(find);
  return {
    where: `n.business_id = ?${sender ? ' AND n.sender_id = ?' : ''}${
      find ? ' AND (n.about_number LIKE ? OR n.payment LIKE ? OR n.step LIKE ?)' : ''
    }`,
    values: [businessId, ...(sender ? [sender] : []), ...(find ? [like, like, like] : [])],
  };
}

const columns: Record<NoticeListQuery['sort'], string> = {
  receivedAt: 'n.received_at',
  happenedAt: 'n.happened_at',
  amount: 'n.amount_minor',
};

/** IDs of the postbacks of a list, in its order. */
export async function findNotices(
  db: Sequelize,
  businessId: string,
  query: NoticeListQuery,
  { limit, offset = 0 }: Part,
): Promise<string[]> {
  const { where, values } = conditionOf(businessId, query);
  const direction = query.descending === 'yes' ? 'DESC' : 'ASC';
  const rows = await selectRows(
    db,
    pick(notices, ['id'], 'n'),
    `FROM notices n WHERE ${where} ORDER BY ${columns[query.sort]} ${direction}, n.id ${direction} LIMIT ? OFFSET ?`,
    [...values, limit, offset],
  );
  return rows.map(({ id }) => id);
}

export async function countNotices(db: Sequelize, businessId: string, query: NoticeListQuery): Promise<number> {
  const { where, values } = conditionOf(businessId, query);
  const { n } = await selectOne(db, { n: whole().of('COUNT(*)') }, `FROM notices n WHERE ${where}`, values);
  return n;
}

export async function readNoticeRows(db: Sequelize, businessId: string, ids: string[]): Promise<NoticeQueryRow[]> {
  if (ids.length === 0) return [];
  const rows = await selectRows(
    db,
    listed,
    `FROM notices n JOIN senders s ON s.business_id = n.business_id AND s.id = n.sender_id
     LEFT JOIN orders o ON n.about_kind = 'order' AND o.business_id = n.business_id AND o.number = n.about_number
     LEFT JOIN subscriptions u ON n.about_kind = 'subscription' AND u.business_id = n.business_id
       AND u.number = n.about_number
     WHERE n.business_id = ? AND n.id IN (?)`,
    [businessId, ids],
  );
  return inOrderOf(ids, rows);
}

/** How much each sender posted. */
export const countBySender = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    { senderId: uuid(), n: whole().of('COUNT(*)') },
    'FROM notices WHERE business_id = ? GROUP BY sender_id',
    [businessId],
  );

/** Which steps senders posted, how often; of all of them, or of one. */
export const countSteps = (db: Sequelize, businessId: string, senderId = '') =>
  selectRows(
    db,
    { senderId: uuid(), step: text(), n: whole().of('COUNT(*)') },
    `FROM notices WHERE business_id = ?${senderId ? ' AND sender_id = ?' : ''} GROUP BY sender_id, step ORDER BY n DESC LIMIT 200`,
    [businessId, ...(senderId ? [senderId] : [])],
  );

/** The numbers of what a sender posted something about, in parts: those behind a number, in their order. */
export async function readAbout(
  db: Sequelize,
  businessId: string,
  senderId: string,
  kind: NoticeRow['aboutKind'],
  after: string,
  limit: number,
): Promise<string[]> {
  const rows = await selectRows(
    db,
    pick(notices, ['aboutNumber']),
    `FROM notices WHERE business_id = ? AND sender_id = ? AND about_kind = ? AND about_number > ?
     GROUP BY about_number ORDER BY about_number LIMIT ?`,
    [businessId, senderId, kind, after, limit],
  );
  return rows.map(({ aboutNumber }) => aboutNumber);
}
