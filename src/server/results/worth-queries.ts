import type { Sequelize } from 'sequelize';
import { orNull, pick, selectRows, text, time, uuid } from '../db';
import { touches, visits } from '../capture/table';
import { subscriptions } from '../subscriptions/table';

/* Who bought before, what subscriptions bring, and whose first visit was when. Read in the pool. */

/** When something was won first by some browsers, or by some people in their enquiries; by the ID of the browser or person. */
export async function readFirstWon(
  db: Sequelize,
  businessId: string,
  codes: string[],
  { visitors, people }: { visitors: string[]; people: string[] },
) {
  const by = (id: string, from: string, ids: string[]) =>
    codes.length === 0 || ids.length === 0
      ? []
      : selectRows(
          db,
          { id: uuid().of(id), at: time().of('MIN(o.happened_at)') },
          `FROM ${from} JOIN outcomes o ON o.business_id = b.business_id AND o.subject_id = b.id
             AND o.code IN (?) AND o.worth_change <> 'taken_back'
           WHERE b.business_id = ? AND ${id} IN (?) GROUP BY ${id}`,
          [codes, businessId, ids],
        );
  const bought = `subscriptions b JOIN sign_ups u ON u.business_id = b.business_id AND u.lead_token = b.lead_token
    AND b.lead_token <> ''`;
  const found = await Promise.all([
    by('b.visitor_id', 'enquiries b', visitors),
    by('b.visitor_id', 'orders b', visitors),
    by('b.visitor_id', 'conversions b', visitors),
    by('u.visitor_id', bought, visitors),
    by('l.person_id', 'leads l JOIN enquiries b ON b.business_id = l.business_id AND b.lead_id = l.id', people),
  ]);
  return found.flat();
}

/** Subscriptions whose first post happened within some time, each with the browser that signed up. */
export const readSubscriptionsBegun = (db: Sequelize, businessId: string, [from, to]: readonly [Date, Date]) =>
  selectRows(
    db,
    {
      ...pick(subscriptions, ['id'], 'b'),
      firstAt: time().of('MIN(b.first_at)'),
      visitorId: uuid().nullable().of('MAX(u.visitor_id)'),
    },
    `FROM subscriptions b LEFT JOIN sign_ups u
       ON u.business_id = b.business_id AND u.lead_token = b.lead_token AND b.lead_token <> ''
     WHERE b.business_id = ? AND b.first_at >= ? AND b.first_at < ? AND b.marked = '' GROUP BY b.id`,
    [businessId, from, to],
  );

/** Visits of some browsers that began within some time, the oldest first, with what brought them. */
export const readVisitsOfSome = (
  db: Sequelize,
  businessId: string,
  visitorIds: string[],
  [from, to]: readonly [Date, Date],
) =>
  selectRows(
    db,
    {
      ...pick(visits, ['visitorId', 'startedAt'], 'v'),
      ...orNull(pick(touches, ['source', 'medium', 'campaign', 'content', 'term', 'platform', 'landing'], 't')),
      referrerHost: text().nullable().of("SUBSTRING_INDEX(t.referrer, '/', 1)"),
    },
    `FROM visits v LEFT JOIN touches t ON t.business_id = v.business_id AND t.id = v.touch_id
     WHERE v.business_id = ? AND v.visitor_id IN (?) AND v.started_at >= ? AND v.started_at < ? AND v.marked = ''
     ORDER BY v.started_at`,
    [businessId, visitorIds, from, to],
  );
