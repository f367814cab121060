import { z } from 'zod';
import type { RangeView } from '../strands';

const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);

export const ranges = z.enum(['week', 'weeks4', 'cycle', 'weeks13', 'release', 'own']);
/** The days that a result is asked for, as they stand in an address. */
export const daysQuery = {
  range: ranges.catch('weeks4'),
  from: day.optional().catch(undefined),
  to: day.optional().catch(undefined),
};
export type DaysRange = z.output<typeof ranges>;
/** The days that are shown, by what was chosen. */
export type DaysView = Omit<RangeView, 'choice'> & { choice: DaysRange };

/** Days that somebody chose are both there, or others are taken. */
export function inKnownDays<Value extends { range: string; from?: string | undefined; to?: string | undefined }>(
  value: Value,
) {
  return value.range === 'own' && !(value.from && value.to) ? { ...value, range: 'weeks4' as const } : value;
}
