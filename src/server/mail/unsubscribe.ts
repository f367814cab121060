import { createHmac } from 'node:crypto';
import type { Config } from '../config';
import { sameText } from '../secrets';

const proofOf = (key: Buffer, act: string): string =>
  createHmac('sha256', key).update(`unsubscribe ${act}`).digest('base64url').slice(0, 22);

/** The address by which whoever got an email stops further ones; nobody else can make one up. */
export const unsubscribeLink = ({ edgeOrigin, secretKey }: Config, business: string, act: string): string =>
  `${edgeOrigin}/stop/${business}/${act}.${proofOf(secretKey, act)}`;

/** The email that such an address is of; null where it was made up. */
export function readUnsubscribe(key: Buffer, given: string): string | null {
  const [act = '', proof = ''] = given.split('.');
  return proof !== '' && sameText(proofOf(key, act), proof) ? act : null;
}
