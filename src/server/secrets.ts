import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

/** Encrypts JSON at rest: AES-256-GCM, as 12 bytes nonce, 16 bytes tag, ciphertext. */
export function seal(key: Buffer, value: unknown): Buffer {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', key, nonce);
  const text = Buffer.concat([cipher.update(JSON.stringify(value), 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), text]);
}

/** Reads what `seal` wrote. Throws where the key is another one or a byte was changed. */
export function unseal(key: Buffer, sealed: Buffer): unknown {
  const cipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12));
  cipher.setAuthTag(sealed.subarray(12, 28));
  return JSON.parse(Buffer.concat([cipher.update(sealed.subarray(28)), cipher.final()]).toString('utf8'));
}

export const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

/** A keyed hash of a person's mail address; the address itself is not stored. */
export const hashMail = (key: Buffer, mail: string): string =>
  createHmac('sha256', key).update(mail.trim().toLowerCase()).digest('hex');

/** Digits of a telephone number that are the same however it is written: with a country in front, or with a 0. */
const lastDigits = 9;
/** A telephone number as it is compared, `+44 1632 960123` as `01632 960123`; '' for what is no number of 7 digits or more. */
export function hashTelephone(key: Buffer, telephone: string): string {
  if (!/^[+(0-9][0-9\s()./-]{5,}$/.test(telephone.trim())) return '';
  const digits = telephone.replace(/\D/g, '').replace(/^0+/, '');
  return digits.length < 7
    ? ''
    : createHmac('sha256', key)
        .update(`tel ${digits.slice(-lastDigits)}`)
        .digest('hex');
}

/** What seals a text with a secret: HMAC-SHA256 (RFC 2104), in hex. */
export const sealOf = (secret: string, text: string): string => createHmac('sha256', secret).update(text).digest('hex');

/** Whether a text was sealed with a secret: HMAC-SHA256 in hex, with `sha256=` before it or without. */
export const isSealedBy = (secret: string, text: string, given: string): boolean =>
  secret !== '' && sameText(sealOf(secret, text), given.replace(/^sha256=/, ''));

/**
 * Whether what was sent proves its sender: by the secret itself (`token`, with "Bearer " before it or without), or by the
 * body sealed with it (`hmac`).
 */
export const isProvenBy = (proof: 'token' | 'hmac', secret: string, body: string, given: string): boolean =>
  proof === 'hmac' ? isSealedBy(secret, body, given) : secret !== '' && sameText(given.replace(/^Bearer /, ''), secret);

const passSeal = (key: Buffer, subject: string, nonce: string): string =>
  createHmac('sha256', key).update(`pass\u0000${subject}\u0000${nonce}`).digest('base64url');

/** A text for a cookie by which a browser that was let in before is known again; nobody else can make one up. */
export function makePass(key: Buffer, subject: string): string {
  const nonce = randomBytes(12).toString('base64url');
  return `${nonce}.${passSeal(key, subject, nonce)}`;
}

/** True for a pass that was made for just this subject. */
export function isPassFor(key: Buffer, subject: string, pass: string): boolean {
  const [nonce = '', given = ''] = pass.split('.');
  return given !== '' && sameText(passSeal(key, subject, nonce), given);
}

/** Compares two texts in a time that does not depend on where they differ. */
export function sameText(a: string, b: string): boolean {
  const [left, right] = [Buffer.from(a), Buffer.from(b)];
  return left.length === right.length && timingSafeEqual(left, right);
}
