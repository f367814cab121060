import { AvrixError } from '../../core/errors';
import type { MailSettingsGiven } from '../../core/leads/routines/mail-set-up-schema';
import type { MailSetUpView, MailStopView } from '../../core/leads/routines/view';
import { mayChange } from '../../core/people/rights';
import { counted, type Sentence } from '../../core/strands';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, selectRows, text, uuid } from '../db';
import { newId, newSecret } from '../ids';
import { called } from '../leads/called';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import { hashMail, seal } from '../secrets';
import { readMailSettings, senderOf, serverOf } from './settings';
import type { SendMail } from './smtp';
import { stopMail } from './stops';
import type { MailSettingsRow, MailStopRow } from './table';

const mostShown = 200;

/** How emails are sent, how replies come back, and who wants none. */
export function makeMailStation(context: Context, changes: Changes, sendMail: SendMail) {
  const { db, tables, config } = context;

  async function view({ business, role }: Membership): Promise<MailSetUpView> {
    const where = { businessId: business.id };
    const [settings, rows, stopped] = await Promise.all([
      readMailSettings(context, business.id),
      tables.mailStops.findAll({ where, order: [['at', 'DESC']], limit: mostShown }),
      tables.mailStops.count({ where }),
    ]);
    const stops = plain(rows);
    const leadOf = await leadsOf(business.id, stops);
    return {
      sentence: sentenceOf(settings, stopped),
      settings: settings && {
        host: settings.host,
        port: settings.port,
        security: settings.security,
        user: settings.user,
        hasPassword: settings.password !== null,
        fromName: settings.fromName,
        fromAddress: settings.fromAddress,
        replyTo: settings.replyTo,
        perMinute: settings.perMinute,
      },
      repliesAddress: `${config.edgeOrigin}/replies/${business.key}`,
      hasSecret: Boolean(settings?.repliesSecret),
      lastReplyAt: settings?.lastReplyAt?.toISOString() ?? null,
      stops: stops.map(({ hash, how, at, byName }): MailStopView => {
        const lead = leadOf.get(hash);
        return {
          hash,
          how,
          byName,
          at: at.toISOString(),
          lead: lead ? called(lead, role.seesPeople) : '',
          enquiryId: lead?.enquiryId ?? '',
        };
      }),
      stopped,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  /** Whose addresses they are, as far as a lead is known by them. */
  async function leadsOf(businessId: string, stops: MailStopRow[]) {
    if (stops.length === 0) return new Map<string, never>();
    const rows = await selectRows(
      db,
      {
        hash: text().of('i.hash'),
        name: text().of('MAX(l.name)'),
        company: text().of('MAX(l.company)'),
        enquiryId: uuid().nullable().of('MAX(e.id)'),
      },
      `FROM identities i JOIN leads l ON l.business_id = i.business_id AND l.id = i.lead_id
       LEFT JOIN enquiries e ON e.business_id = l.business_id AND e.lead_id = l.id
       WHERE i.business_id = ? AND i.kind = 'mail' AND i.hash IN (?) GROUP BY i.hash`,
      [businessId, stops.map(({ hash }) => hash)],
    );
    return new Map(rows.map((row) => [row.hash, row]));
  }

  const note = (
    { business, role }: Membership,
    subject: string,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) => changes.note(business.id, role.personId, [{ kind: 'lead', subject, was, became }], transaction);

  return {
    view,

    /** @throws AVX_ROLE_TOO_SMALL */
    async save(membership: Membership, { password, ...given }: MailSettingsGiven): Promise<MailSetUpView> {
      requireEditor(membership);
      const { business } = membership;
      const before = await readMailSettings(context, business.id);
      const sealed =
        password === null ? (before?.password ?? null) : password ? seal(config.secretKey, password) : null;
      const row: MailSettingsRow = {
        businessId: business.id,
        ...given,
        password: sealed,
        repliesSecret: before?.repliesSecret ?? null,
        lastReplyAt: before?.lastReplyAt ?? null,
        changedAt: now(),
      };
      await inTransaction(db, async (transaction) => {
        await tables.mailSettings.upsert(row, { transaction });
        await note(membership, 'How emails are sent', before ? wordsOf(before) : '', wordsOf(row), transaction);
        if (password !== null)
          await note(membership, 'Password of the mail server', '', password ? 'another one' : 'none', transaction);
      });
      return view(membership);
    },

    /** Sends a line to an address, to see whether the mail server takes it. @throws AVX_MAIL_NOT_SET_UP, AVX_MAIL_NOT_TAKEN */
    async test(membership: Membership, to: string): Promise<{ answer: string }> {
      requireEditor(membership);
      const { business } = membership;
      const settings = await readMailSettings(context, business.id);
      if (!settings) throw new AvrixError('AVX_MAIL_NOT_SET_UP');
      const { kind, answer } = await sendMail(serverOf(context, settings), {
        ...senderOf(settings, newId()),
        to,
        subject: `Emails from ${business.name} work`,
        text: 'Avrix sent this to see whether your mail server takes its emails.',
        html: '',
      });
      if (kind !== 'taken') throw new AvrixError('AVX_MAIL_NOT_TAKEN', { answer });
      return { answer };
    },

    /** A secret for those who pass replies on, shown this once. @throws AVX_ROLE_TOO_SMALL, AVX_MAIL_NOT_SET_UP */
    async makeSecret(membership: Membership): Promise<{ secret: string }> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const before = await readMailSettings(context, businessId);
      if (!before) throw new AvrixError('AVX_MAIL_NOT_SET_UP');
      const secret = newSecret();
      await inTransaction(db, async (transaction) => {
        const repliesSecret = seal(config.secretKey, secret);
        await tables.mailSettings.update({ repliesSecret }, { where: { businessId }, transaction });
        const was = before.repliesSecret ? 'another secret' : 'no secret';
        await note(membership, 'Replies', was, 'a new secret', transaction);
      });
      return { secret };
    },

    /** Adds an address to which nothing is sent any more. @throws AVX_ROLE_TOO_SMALL */
    async addStop(membership: Membership, byName: string, address: string): Promise<MailSetUpView> {
      requireEditor(membership);
      const { business } = membership;
      await inTransaction(db, async (transaction) => {
        await stopMail(context, business.id, hashMail(config.secretKey, address), 'hand', byName, transaction);
        await note(membership, 'Emails to one address', 'sent', 'stopped by hand', transaction);
      });
      return view(membership);
    },

    /** Sends to an address again. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async endStop(membership: Membership, hash: string): Promise<MailSetUpView> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, hash };
      await inTransaction(db, async (transaction) => {
        const ended = await tables.mailStops.destroy({ where, transaction });
        if (ended === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'address' });
        await note(membership, 'Emails to one address', 'stopped', 'sent', transaction);
      });
      return view(membership);
    },
  };
}

const wordsOf = ({ host, port, security, user, fromName, fromAddress, replyTo, perMinute }: MailSettingsRow): string =>
  [
    `${host}:${port}, ${security === 'none' ? 'not encrypted' : security.toUpperCase()}`,
    user ? `as ${user}` : 'without a password',
    `from ${fromName} <${fromAddress}>`,
    replyTo ? `replies to ${replyTo}` : '',
    `${perMinute} a minute`,
  ]
    .filter(Boolean)
    .join('; ');

function sentenceOf(settings: MailSettingsRow | null, stopped: number): Sentence {
  if (!settings)
    return { title: 'Emails cannot be sent yet.', under: 'Say which mail server sends them, and who they are from.' };
  const none = stopped === 0 ? 'Nobody has stopped them' : `${counted(stopped, 'address gets', 'addresses get')} none`;
  return {
    title: `Emails go out from ${settings.fromAddress}.`,
    under: `${none}. ${settings.repliesSecret ? 'Replies come back here.' : 'Replies do not come back here yet, so nobody is let go for one.'}`,
  };
}
