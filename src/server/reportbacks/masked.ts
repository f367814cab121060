import type { KeyKind } from '../../core/platforms';

const kindWords: Record<KeyKind, string> = {
  click_id: 'click ID',
  mail_hash: 'email address, hashed, which the CRM is asked for',
  telephone_hash: 'telephone number, hashed, which the CRM is asked for',
};

/** A key as it is shown: enough to tell two apart, not enough to use it. One that is not kept is said in words. */
export const maskedKey = (kind: KeyKind, key: string): string => (key === '' ? kindWords[kind] : masked(key));

const masked = (key: string): string => (key.length <= 8 ? '••••' : `${key.slice(0, 4)}…${key.slice(-3)}`);

/** What was sent, without the key that names somebody. */
export function maskedRequest(sent: unknown, key: string): string {
  const text = JSON.stringify(sent, null, 2);
  if (key === '') return text;
  return text
    .replaceAll(JSON.stringify(key).slice(1, -1), masked(key))
    .replaceAll(encodeURIComponent(key), masked(key));
}
