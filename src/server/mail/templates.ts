import { AvrixError, fieldsWrong } from '../../core/errors';
import { mailFacts, tryWriteMail, type MailTemplate } from '../../core/leads/routines/mail-text';
import type { MailGiven } from '../../core/leads/routines/schema';
import type { MailShown, MailsView, MailView } from '../../core/leads/routines/view';
import { listed } from '../../core/listed';
import { mayChange } from '../../core/people/rights';
import { counted, type Sentence } from '../../core/strands';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain } from '../db';
import { newId } from '../ids';
import { called } from '../leads/called';
import { readRecordNames } from '../leads/queries';
import { countSent } from '../leads/routines/queries';
import { readRoutineUse } from '../leads/routines/users';
import { refuseTakenName } from '../taken-name';
import { factsOf, readWhom } from '../leads/routines/whom';
import type { Membership } from '../people/people';
import type { CampaignNames } from '../plan/campaign-names';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { readMailSettings, senderOf, serverOf } from './settings';
import type { SendMail } from './smtp';
import type { MailTemplateRow } from './table';

/** Emails as they are written down, shown with a lead's facts, and tried on oneself. */
export function makeMailTemplates(
  context: Context,
  releases: Releases,
  changes: Changes,
  campaignNames: CampaignNames,
  sendMail: SendMail,
) {
  const { db, tables, config } = context;

  const readAll = async (businessId: string): Promise<MailTemplateRow[]> =>
    plain(await tables.mailTemplates.findAll({ where: { businessId }, order: [['name', 'ASC']] }));

  async function view({ business, role }: Membership): Promise<MailsView> {
    const [rows, use, counts, crmFields] = await Promise.all([
      readAll(business.id),
      readRoutineUse(context, business.id),
      countSent(db, business.id),
      readRecordNames(db, business.id, 'fields'),
    ]);
    const mails = rows.map((row): MailView => {
      const sent = counts.find(({ mailId }) => mailId === row.id);
      return {
        id: row.id,
        name: row.name,
        ...row.body,
        changedAt: row.changedAt.toISOString(),
        isRetired: row.retiredAt !== null,
        usedBy: use.filter((one) => one.mails.includes(row.id)).map(({ name }) => name),
        sent: sent?.sent ?? 0,
        lastAt: sent?.lastAt.toISOString() ?? null,
      };
    });
    return {
      sentence: sentenceOf(mails),
      mails,
      facts: Object.entries(mailFacts),
      crmFields,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  /** With the facts of the newest lead that has a name; without one, with made-up ones. */
  async function show({ business, role }: Membership, template: MailTemplate): Promise<MailShown> {
    const release = await releases.live(business.id);
    const [newest] = plain(
      await tables.enquiries.findAll({
        where: { businessId: business.id, marked: '' as const },
        order: [['sentAt', 'DESC']],
        limit: 1,
      }),
    );
    const whom = newest && role.seesPeople ? await readWhom(context, business.id, newest.id, release) : null;
    const link = `${config.edgeOrigin}/stop/${business.key}/…`;
    const madeUp = {
      first_name: 'Ines',
      name: 'Ines Brannock',
      company: 'Brannock Bakery',
      form: 'a form',
      enquired: '14 Feb',
      came_from: 'Paid search',
      business: business.name,
      unsubscribe: link,
      record: {},
    };
    const facts = whom ? factsOf(whom, business, release, await campaignNames.get(business.id), link) : madeUp;
    const of = whom ? called(whom.lead ?? { company: '', name: '' }, true) : 'somebody made up';
    const written = tryWriteMail(template, facts);
    if ('problem' in written)
      throw fieldsWrong([{ field: 'text', was: written.problem, fix: 'Change what is written there.' }]);
    return { ...written, of };
  }

  const note = (
    { business, role }: Membership,
    name: string,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) =>
    changes.note(business.id, role.personId, [{ kind: 'lead', subject: `Email “${name}”`, was, became }], transaction);

  return {
    view,
    show,

    /** @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where the name is taken, AVX_MAIL_CHANGED */
    async save(membership: Membership, given: MailGiven): Promise<{ id: string }> {
      requireEditor(membership);
      const { business } = membership;
      const all = await readAll(business.id);
      const before = all.find(({ id }) => id === given.id);
      if (given.id !== '' && !before) throw new AvrixError('AVX_NOT_FOUND', { what: 'email' });
      if (before && before.changedAt.toISOString() !== given.seen) throw new AvrixError('AVX_MAIL_CHANGED');
      refuseTakenName(all, given, 'an email');
      const row: MailTemplateRow = {
        businessId: business.id,
        id: before?.id ?? newId(),
        name: given.name,
        body: { subject: given.subject, text: given.text, html: given.html },
        madeAt: before?.madeAt ?? now(),
        changedAt: now(),
        retiredAt: before?.retiredAt ?? null,
      };
      const words = ({ body }: MailTemplateRow) => `${body.subject}\n\n${body.text}`;
      await inTransaction(db, async (transaction) => {
        await tables.mailTemplates.upsert(row, { transaction });
        await note(membership, row.name, before ? words(before) : '', words(row), transaction);
      });
      return { id: row.id };
    },

    /** @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_MAIL_USED where routines in use send it */
    async retire(membership: Membership, id: string, retired: boolean): Promise<MailsView> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      const row = (await tables.mailTemplates.findOne({ where }))?.get({ plain: true });
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'email' });
      const users = (await readRoutineUse(context, membership.business.id)).filter(({ mails }) => mails.includes(id));
      if (retired && users.length > 0)
        throw new AvrixError('AVX_MAIL_USED', { by: listed(users.map(({ name }) => `“${name}”`)) });
      await inTransaction(db, async (transaction) => {
        await tables.mailTemplates.update(
          { retiredAt: retired ? now() : null, changedAt: now() },
          { where, transaction },
        );
        const [was, became] = retired ? ['in use', 'retired'] : ['retired', 'in use'];
        await note(membership, row.name, was!, became!, transaction);
      });
      return view(membership);
    },

    /** Sends one to whoever asks for it. @throws AVX_ROLE_TOO_SMALL, AVX_MAIL_NOT_SET_UP, AVX_MAIL_NOT_TAKEN */
    async sendToMe(membership: Membership, to: string, template: MailTemplate): Promise<{ answer: string }> {
      requireEditor(membership);
      const settings = await readMailSettings(context, membership.business.id);
      if (!settings) throw new AvrixError('AVX_MAIL_NOT_SET_UP');
      const { subject, text, html } = await show(membership, template);
      const { kind, answer } = await sendMail(serverOf(context, settings), {
        ...senderOf(settings, newId()),
        to,
        subject: `Try: ${subject}`,
        text,
        html,
      });
      if (kind !== 'taken') throw new AvrixError('AVX_MAIL_NOT_TAKEN', { answer });
      return { answer };
    },
  };
}

function sentenceOf(mails: MailView[]): Sentence {
  const used = mails.filter(({ isRetired }) => !isRetired);
  if (used.length === 0) return { title: 'No email is written yet.', under: 'Write one, and have a routine send it.' };
  const sent = used.reduce((sum, one) => sum + one.sent, 0);
  return {
    title: `${counted(used.length, 'email', 'emails')}, sent ${counted(sent, 'time', 'times')}.`,
    under: 'A change holds for what is sent from now on.',
  };
}
