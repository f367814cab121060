import type { Sequelize } from 'sequelize';
import { orNull, pick, selectOne, selectRows, text, whole, type Read } from '../../db';
import { touches } from '../../capture/table';
import { enquiries, leads } from '../table';
import { callNumbers, calls } from './table';

const shown = {
  ...pick(calls, ['id', 'enquiryId', 'dialled', 'caller', 'startedAt', 'seconds', 'answered', 'became', 'found'], 'c'),
  ...orNull(pick(leads, ['name', 'company'], 'l')),
  ...orNull(pick(touches, ['source', 'medium', 'referrer'], 't')),
  form: enquiries.columns.form.of('e.form').nullable(),
  line: callNumbers.columns.name.of('n.name').nullable(),
};
export type NewestCall = Read<typeof shown>;

/** Digits by which numbers are compared, as `dialKey` has them. */
const keyOf = (column: string) => `RIGHT(TRIM(LEADING '0' FROM REGEXP_REPLACE(${column}, '[^0-9]', '')), 9)`;
const withNumber = `LEFT JOIN call_numbers n ON n.business_id = c.business_id AND n.dial_key = ${keyOf('c.dialled')}`;

/** The newest calls, with whose they are and where they came from. */
export const readNewestCalls = (db: Sequelize, businessId: string, most: number): Promise<NewestCall[]> =>
  selectRows(
    db,
    shown,
    `FROM calls c
     LEFT JOIN enquiries e ON e.business_id = c.business_id AND e.id = c.enquiry_id
     LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
     LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id
     ${withNumber}
     WHERE c.business_id = ? ORDER BY c.started_at DESC, c.id LIMIT ${most}`,
    [businessId],
  );

/** Calls by what became of them. */
export const countCalls = (db: Sequelize, businessId: string) =>
  selectOne(
    db,
    {
      all: whole().of('COUNT(*)'),
      enquiries: whole().of("COUNT(IF(became = 'enquiry', 1, NULL))"),
      known: whole().of("COUNT(IF(became = 'enquiry' AND found IN ('code', 'number'), 1, NULL))"),
      missed: whole().of("COUNT(IF(answered = FALSE AND became <> 'again', 1, NULL))"),
      short: whole().of("COUNT(IF(became = 'too short', 1, NULL))"),
      wrongCodes: whole().of("COUNT(IF(found = 'unknown code', 1, NULL))"),
    },
    'FROM calls WHERE business_id = ?',
    [businessId],
  );

/** Calls by the number that was dialled, and how many of them began an enquiry. */
export const countByNumber = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    {
      key: text().of(keyOf('dialled')),
      number: text().of('MAX(dialled)'),
      calls: whole().of('COUNT(*)'),
      enquiries: whole().of("COUNT(IF(became = 'enquiry', 1, NULL))"),
    },
    `FROM calls WHERE business_id = ? GROUP BY ${keyOf('dialled')} ORDER BY calls DESC LIMIT 200`,
    [businessId],
  );
