import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/**
 * A telephone number as platforms know people by it: with + and its country (E.164), without anything between the digits, by
 * SHA-256 in hexadecimal. '' where it does not say its country: none is guessed, since the number would be another one's.
 */
export function hashTelephone(text: string): string {
  const number = text
    .trim()
    .replace(/^00/, '+')
    .replace(/\(0\)|[\s().\-/]/g, '');
  return /^\+[1-9]\d{6,14}$/.test(number) ? bytesToHex(sha256(utf8ToBytes(number))) : '';
}
