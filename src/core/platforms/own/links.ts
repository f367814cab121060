import type { LinkContract } from '../contract';
import type { OwnPlatform } from '../schema';
import { saysReading } from './readings';

/** What is fixed about links to ads of an own platform. */
export const ownLinks = ({
  kind,
  words,
  clickParameters,
  provesPayment,
  placeholders,
  freezesNames,
  tells,
  telling,
  page,
}: OwnPlatform): LinkContract => ({
  kind,
  words,
  clickParameter: clickParameters[0] ?? '',
  provesPayment,
  placeholders,
  freezesNames,
  tells,
  takesMailHash: saysReading(telling, 'mail_hash'),
  ...(page ? { page } : {}),
});
