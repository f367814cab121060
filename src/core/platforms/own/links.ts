import type { LinkContract, PersonKey } from '../contract';
import type { OwnPlatform, PlatformTelling } from '../schema';
import { saysReading } from './readings';

/** By what beside a click an own platform knows people: what a row can say. */
export const knowsPeopleBy = (telling: PlatformTelling): PersonKey[] =>
  (['mail', 'telephone'] as const).filter((key) => saysReading(telling, `${key}_hash`));

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
  knowsPeopleBy: knowsPeopleBy(telling),
  takesTests: telling.testPath !== '',
  ...(page ? { page } : {}),
});
