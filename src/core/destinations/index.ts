import type { DestinationContract } from './contract';
import { meterhall } from './meterhall';

export type { DestinationContract, EventRow } from './contract';

/** Every kind of place that ships and is told events. */
export const destinationKinds: readonly DestinationContract[] = [meterhall];

/** The contract of a kind of destination; null where Avrix knows none. */
export const destinationOf = (kind: string): DestinationContract | null =>
  destinationKinds.find((contract) => contract.kind === kind) ?? null;
