import { linkContracts } from '../platforms/links';
import { ownLinks } from '../platforms/own/links';
import { saysReading } from '../platforms/own/readings';
import type { OwnPlatform } from '../platforms/schema';
import type { DestinationFace } from './contract';
import { meterhallFace } from './meterhall/face';
import { platformFace } from './platform-face';

/** What whoever writes a wire needs to know of a kind of destination; null where there is none. @param own described by the business */
export function faceOf(kind: string, own: readonly OwnPlatform[]): DestinationFace | null {
  if (kind === meterhallFace.kind) return meterhallFace;
  const shipped = linkContracts.find((one) => one.kind === kind);
  if (shipped) return platformFace(shipped, false);
  const described = own.find((one) => one.kind === kind);
  return described ? platformFace(ownLinks(described), takesFields(described)) : null;
}

/** Whether an own platform has a place for fields of any name. */
export const takesFields = ({ telling }: OwnPlatform): boolean => saysReading(telling, 'fields');
