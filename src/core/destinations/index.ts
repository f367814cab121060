import { contractOf, platformKinds } from '../platforms';
import type { OwnPlatform } from '../platforms/schema';
import type { DestinationContract } from './contract';
import { takesFields } from './faces';
import { meterhall } from './meterhall';
import { destinationOfPlatform } from './platform';

export type { DestinationContract, EventRow } from './contract';

/** Every kind of place that ships and is told events without being a platform. */
export const destinationKinds: readonly DestinationContract[] = [meterhall];

/** Every kind that ships and is told events, platforms too. */
export const shippedDestinations = (): DestinationContract[] => [
  ...destinationKinds,
  ...platformKinds.map((contract) => destinationOfPlatform(contract, false)),
];

/** The contract of a kind of destination; null where Avrix knows none. @param own platforms that the business describes itself */
export function destinationOf(kind: string, own: readonly OwnPlatform[]): DestinationContract | null {
  const shipped = destinationKinds.find((contract) => contract.kind === kind);
  if (shipped) return shipped;
  const platform = contractOf(kind, own);
  const described = own.find((one) => one.kind === kind);
  return platform ? destinationOfPlatform(platform, described !== undefined && takesFields(described)) : null;
}
