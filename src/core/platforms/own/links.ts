import type { LinkContract } from '../contract';
import type { OwnPlatform } from '../schema';

/** What is fixed about links to ads of an own platform. */
export const ownLinks = ({
  kind,
  words,
  clickParameters,
  provesPayment,
  placeholders,
  freezesNames,
  tells,
  page,
}: OwnPlatform): LinkContract => ({
  kind,
  words,
  clickParameter: clickParameters[0] ?? '',
  provesPayment,
  placeholders,
  freezesNames,
  tells,
  ...(page ? { page } : {}),
});
