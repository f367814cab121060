import { touchIdOf } from '../../core/strands';
import type { TouchRow } from '../db';

/** What is known of where somebody came from whom no page saw arrive. */
export type PagelessOrigin = Pick<TouchRow, 'businessId' | 'at' | 'source' | 'medium' | 'campaign' | 'content'> &
  Partial<Pick<TouchRow, 'term' | 'utmId' | 'platform' | 'clickId'>>;

/**
 * The touch of a lead that no page sent: it is alone in a visit of its own.
 * @param id of the lead, call or row, which its visitor, visit and hit are called by
 */
export const pagelessTouch = (
  id: string,
  because: 'lead_form' | 'call' | 'import',
  releaseNumber: number,
  origin: PagelessOrigin,
): TouchRow => ({
  term: '',
  utmId: '',
  referrer: '',
  landing: '',
  platform: '',
  clickId: '',
  ...origin,
  id: touchIdOf(id),
  visitorId: id,
  visitId: id,
  hitId: id,
  because,
  pageBecause: because,
  isFirst: true,
  isLast: true,
  releaseNumber,
});
