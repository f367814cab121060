import type { Context } from '../context';
import { unseal } from '../secrets';
import type { MailServer, OutgoingMail } from './smtp';
import type { MailSettingsRow } from './table';

/** A business's mail server with who writes; null where it never said one. */
export const readMailSettings = async (
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
): Promise<MailSettingsRow | null> =>
  (await tables.mailSettings.findOne({ where: { businessId } }))?.get({ plain: true }) ?? null;

export const serverOf = (
  { config }: Pick<Context, 'config'>,
  { host, port, security, user, password }: MailSettingsRow,
): MailServer => ({
  host,
  port,
  security,
  user,
  password: password ? String(unseal(config.secretKey, password)) : '',
});

/** Who writes, and the name of an email by which a reply is known. @param key such as an act's ID */
export const senderOf = (
  { fromName, fromAddress, replyTo }: MailSettingsRow,
  key: string,
): Pick<OutgoingMail, 'from' | 'replyTo' | 'messageId'> => ({
  from: { name: fromName, address: fromAddress },
  replyTo,
  messageId: `<avrix.${key}@${fromAddress.split('@')[1]!}>`,
});

/** The keys of emails that a text names, such as the references of a reply. */
export const mailKeysIn = (text: string): string[] => [
  ...new Set([...text.matchAll(/<avrix\.([0-9a-f-]{36})@/gi)].map(([, key]) => key!.toLowerCase())),
];
