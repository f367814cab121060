import { sha256 } from '../secrets';

/** By which an installation's edge is known, whatever name it is reached under; it says nothing of the key it is made from. */
export const edgeName = (secretKey: Buffer): string => sha256(`edge ${secretKey.toString('hex')}`).slice(0, 16);
