import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Consent } from '../capture/schema';
import type { WireRule } from './schema';
import { mayWire } from './wires';

/** A reading that is told only hashed, and what somebody must have agreed to for it: everything that it is told for. */
export interface HashedReading {
  id: string;
  purposes: WireRule['purpose'][];
}

/**
 * An email address as destinations know people by it: in lower case, without spaces around it, by SHA-256 in hexadecimal.
 * '' where the text is no address: what somebody typed into the wrong field is not hashed either.
 */
export function hashMail(text: string): string {
  const mail = text.trim().toLowerCase();
  return /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(mail) ? bytesToHex(sha256(utf8ToBytes(mail))) : '';
}

/** What is read of an email address: its hash where somebody agreed to all that it is for, else nothing. */
export const readHashed = (
  hashed: readonly HashedReading[],
  id: string,
  text: string,
  consent: Pick<Consent, 'measurement' | 'advertising'> | null,
  required: boolean,
): string =>
  hashed.some((one) => one.id === id && one.purposes.every((purpose) => mayWire({ purpose }, consent, required)))
    ? hashMail(text)
    : '';
