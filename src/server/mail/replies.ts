import PostalMime, { type Email } from 'postal-mime';
import { AvrixError } from '../../core/errors';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain } from '../db';
import { sameText, unseal } from '../secrets';
import { mailKeysIn, readMailSettings } from './settings';
import { stopMail } from './stops';

/** What was passed on: somebody's reply, that an email could not be delivered, or neither, such as a note of absence. */
export type PassedOn = 'reply' | 'bounce' | 'neither';

const header = ({ headers }: Email, name: string): string => headers.find(({ key }) => key === name)?.value ?? '';

/**
 * What an email is that came back: a report of delivery (RFC 3464) that says it failed, an automatic answer (RFC 3834), or
 * somebody's own.
 */
export function kindOfMail(mail: Email, source: string): PassedOn {
  if (/multipart\/report/i.test(header(mail, 'content-type')))
    return /^Action:\s*failed/im.test(source) ? 'bounce' : 'neither';
  const auto = header(mail, 'auto-submitted').toLowerCase();
  const isBulk = /^(bulk|junk|auto_reply)$/i.test(header(mail, 'precedence'));
  return (auto !== '' && auto !== 'no') || isBulk ? 'neither' : 'reply';
}

/**
 * Takes emails that a mail system passes on, each as it came (RFC 5322). Of a reply to an email of a routine the lead is let go,
 * where the routine says so; to an address at which nothing arrives nothing is sent any more. Any other email is left alone.
 *
 * @throws AVX_NOT_FOUND where none are taken, AVX_SEAL_WRONG
 */
export const makeTakeReply = (context: Context) =>
  async function takeReply(businessId: string, source: string, authorization: string): Promise<{ taken: PassedOn }> {
    const { db, tables, config } = context;
    const settings = await readMailSettings(context, businessId);
    if (!settings?.repliesSecret) throw new AvrixError('AVX_NOT_FOUND', { what: 'address for replies' });
    const secret = String(unseal(config.secretKey, settings.repliesSecret));
    if (!sameText(authorization, `Bearer ${secret}`)) throw new AvrixError('AVX_SEAL_WRONG');
    await tables.mailSettings.update({ lastReplyAt: now() }, { where: { businessId } });
    const mail = await PostalMime.parse(source);
    const kind = kindOfMail(mail, source);
    const named = kind === 'bounce' ? source : `${header(mail, 'in-reply-to')} ${header(mail, 'references')}`;
    const acts = plain(
      await tables.routineActs.findAll({ where: { businessId, id: mailKeysIn(named).slice(0, 50), does: 'mail' } }),
    );
    if (kind === 'neither' || acts.length === 0) return { taken: 'neither' };
    if (kind === 'bounce') {
      await inTransaction(db, async (transaction) => {
        for (const { mailHash } of acts)
          // eslint-disable-next-line no-await-in-loop -- one, as a rule
          if (mailHash) await stopMail(context, businessId, mailHash, 'bounced', '', transaction);
      });
      return { taken: 'bounce' };
    }
    const routines = plain(
      await tables.routines.findAll({ where: { businessId, id: acts.map(({ routineId }) => routineId) } }),
    );
    const ending = new Set(routines.filter(({ means }) => means.letGo.reply).map(({ id }) => id));
    const id = acts.filter(({ routineId }) => ending.has(routineId)).map(({ runId }) => runId);
    await tables.routineRuns.update(
      { state: 'let_go', why: 'replied', endedAt: now(), dueAt: null },
      { where: { businessId, id, state: 'going' } },
    );
    return { taken: 'reply' };
  };
