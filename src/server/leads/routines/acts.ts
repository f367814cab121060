import { mailFor, type Doing as DoingKind } from '../../../core/leads/routines/routine';
import { tryWriteMail } from '../../../core/leads/routines/mail-text';
import { cardNote } from '../../../core/leads/card';
import { qualityWords } from '../../../core/leads';
import { noStages } from '../../../core/outcomes';
import { quoteValue } from '../../../core/quote-value';
import type { Context } from '../../context';
import type { Crms } from '../../crms/crm';
import { hashMail, seal } from '../../secrets';
import { readMailSettings, senderOf, serverOf } from '../../mail/settings';
import type { OutgoingMail, SendMail } from '../../mail/smtp';
import { isStopped } from '../../mail/stops';
import { unsubscribeLink } from '../../mail/unsubscribe';
import type { MailSettingsRow } from '../../mail/table';
import type { CallLimit } from '../../platforms/call-limit';
import { ServiceAway } from '../../platforms/call';
import type { CampaignNames } from '../../plan/campaign-names';
import { cardOf } from '../card';
import type { SayQuality } from '../say-quality';
import type { WriteBack } from '../write-back';
import { canHold } from '../write-records';
import type { Doing, Done } from './step';
import { addressOf, factsOf } from './whom';

/** Does one step for one lead, and says what became of it. */
export type Act = (doing: Doing) => Promise<Done>;

const leftOut = (answer: string): Done => ({ state: 'left_out', answer });
const later = (answer: string, rest: Pick<Done, 'after' | 'patient'> = {}): Done => ({
  state: 'later',
  answer,
  ...rest,
});
/** What is sent to an address that is asked for anew once a mail server is said. */
const untilSetUp = 10 * 60_000;

/** What the steps of routines do. */
export function makeAct(
  context: Context,
  crms: Crms,
  campaignNames: CampaignNames,
  writeBack: WriteBack,
  sendMail: SendMail,
  say: SayQuality,
  limit: CallLimit,
): Act {
  const { tables, config, http } = context;

  /** Sends what was begun, within what the mail server takes a minute. */
  async function post(
    { run, begin }: Doing,
    settings: MailSettingsRow,
    mail: OutgoingMail,
    what: Parameters<Doing['begin']>[0],
  ): Promise<Done> {
    const wait = limit.take(`mail ${run.businessId}`, settings.perMinute);
    if (wait > 0) return later('as many emails went out as a minute allows', { after: wait, patient: true });
    await begin(what);
    const { kind, answer } = await sendMail(serverOf(context, settings), mail);
    if (kind === 'taken') return { state: 'done', answer };
    return kind === 'later' ? later(answer, { patient: true }) : { state: kind, answer };
  }

  async function mailThem(doing: Doing): Promise<Done> {
    const { business, release, step, whom, actId } = doing;
    const { enquiry } = whom;
    const settings = await readMailSettings(context, business.id);
    if (!settings) return later('no mail server is known', { after: untilSetUp, patient: true });
    const id = mailFor(step, enquiry.form);
    const template = id && (await tables.mailTemplates.findOne({ where: { businessId: business.id, id } }));
    if (!template) return leftOut('no email is there for the form');
    const { name, body } = template.get({ plain: true });
    const to = await addressOf(context, crms, whom);
    if (to === '') return later('no email address is known yet');
    const mailHash = hashMail(config.secretKey, to);
    if (await isStopped(context, business.id, mailHash)) return leftOut('wants no emails');
    const link = unsubscribeLink(config, business.key, actId);
    const campaignName = await campaignNames.get(business.id);
    const written = tryWriteMail(body, factsOf(whom, business, release, campaignName, link));
    if ('problem' in written) return { state: 'refused', answer: written.problem };
    const mail = {
      ...written,
      ...senderOf(settings, actId),
      to,
      headers: {
        // RFC 8058: a mail program offers it beside the email.
        'List-Unsubscribe': `<${link}>`,
        'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
      },
    };
    const sent = seal(config.secretKey, { to, subject: written.subject, text: written.text });
    return post(doing, settings, mail, { words: `Emailed “${name}”`, mailId: id, mailHash, sent });
  }

  async function cardText({ business, release, whom: { enquiry, lead, touch } }: Doing): Promise<string> {
    const campaignName = await campaignNames.get(business.id);
    const card = cardOf(
      {
        title: lead?.company || lead?.name || 'Somebody whose name is not known',
        person: lead?.company ? lead.name : '',
        enquiry,
        bought: null,
        origin: touch,
        first: null,
        before: [],
      },
      release,
      business.timeZone,
      campaignName,
    );
    return cardNote(card, writeBack.linkOf(business.key, enquiry.id));
  }

  async function tellByMail(doing: Doing): Promise<Done> {
    const { business, routine, step, whom, actId } = doing;
    const settings = await readMailSettings(context, business.id);
    if (!settings) return later('no mail server is known', { after: untilSetUp, patient: true });
    const called = whom.lead?.company || whom.lead?.name || 'somebody whose name is not known';
    const mail = {
      ...senderOf(settings, actId),
      replyTo: '',
      to: step.to,
      subject: step.words ? `${step.words}: ${called}` : `${routine.name}: ${called}`,
      text: [step.words, await cardText(doing)].filter(Boolean).join('\n\n'),
      html: '',
      headers: { 'Auto-Submitted': 'auto-generated' },
    };
    const sent = seal(config.secretKey, { to: step.to, subject: mail.subject, text: mail.text });
    return post(doing, settings, mail, { words: `Told ${quoteValue(step.to)}`, sent });
  }

  /** One with the same key is told again after an answer that never came; whoever is told knows it by the key. */
  async function tellByWebhook(doing: Doing): Promise<Done> {
    const { business, routine, step, whom, actId, begin } = doing;
    await begin({ words: `Told ${quoteValue(new URL(step.to).host)} by webhook` });
    const { enquiry } = whom;
    const body = JSON.stringify({
      key: actId,
      routine: routine.name,
      lead: writeBack.linkOf(business.key, enquiry.id),
      form: enquiry.form,
      enquired_at: enquiry.sentAt.toISOString(),
      stage: enquiry.stage ?? '',
      crm_number: whom.deals[0]?.number ?? '',
      came_from: await cardText(doing),
    });
    const headers = { 'content-type': 'application/json', 'idempotency-key': actId };
    try {
      const { status } = await http(step.to, { method: 'POST', headers, body });
      if (status < 300) return { state: 'done', answer: `Answered ${status}.` };
      const isForNow = status === 408 || status === 429 || status >= 500;
      return isForNow
        ? later(`it answered ${status}`, { patient: true })
        : { state: 'refused', answer: `It answered ${status}.` };
    } catch (error) {
      return later((error as Error).message, { patient: true });
    }
  }

  /** Writes a field, or moves the record on, by the queue of what is written into the CRM. */
  async function changeRecord(doing: Doing): Promise<Done> {
    const { business, release, routine, step, whom, begin } = doing;
    const [deal] = whom.deals;
    const crm = await crms.of(business.id);
    if (!crm) return later('no CRM is connected');
    if (!deal) return later('the CRM has no record yet');
    const { contract, account } = crm;
    const { stage } = deal.record;
    const { inOrder, ended } = release.content.crm?.stages ?? noStages;
    const isMove = step.does === 'stage';
    if (isMove ? !contract.move : !contract.write || !canHold(crm, step.field))
      return leftOut(`${account.name} says no way to ${isMove ? 'move a record' : `write ${quoteValue(step.field)}`}`);
    const was = isMove ? stage : (deal.record.fields[step.field] ?? '');
    if (isMove && (ended.includes(stage) || inOrder.indexOf(stage) >= inOrder.indexOf(step.stage)))
      return leftOut(`it is at ${stage} already`);
    if (!isMove && (was === step.value || (step.onlyEmpty && was !== '')))
      return leftOut(was === step.value ? 'it says so already' : `${quoteValue(was)} is in it`);
    const field = isMove ? '' : step.field;
    const becomes = isMove ? step.stage : step.value;
    await begin({ words: isMove ? `Moved the record on to ${becomes}` : `Wrote ${quoteValue(field)}` });
    const writes = [{ rule: routine.id, field, was, becomes, cut: null }];
    const plan = { writable: { enquiry: whom.enquiry }, deal, writes };
    const byName = `the routine “${routine.name}”`;
    await writeBack.queue(business.id, crm, [plan], isMove ? 'stage' : 'routine', byName, release);
    return { state: 'done', answer: '' };
  }

  async function setQuality({ business, routine, step, whom, begin }: Doing): Promise<Done> {
    const { id, saidQuality } = whom.enquiry;
    if (saidQuality === step.quality) return leftOut('somebody said so already');
    await begin({ words: `Said to be ${qualityWords[step.quality]}` });
    const given = { ids: [id], quality: step.quality, reason: step.words };
    await say(business.id, `the routine “${routine.name}”`, given);
    return { state: 'done', answer: '' };
  }

  const acts: Record<DoingKind, Act> = {
    mail: mailThem,
    tell_mail: tellByMail,
    tell_webhook: tellByWebhook,
    field: changeRecord,
    stage: changeRecord,
    quality: setQuality,
  };
  return async (doing) => {
    try {
      return await acts[doing.step.does](doing);
    } catch (error) {
      // Where the CRM is away it was not even begun.
      if (!(error instanceof ServiceAway)) throw error;
      return later(error.message, { patient: true, ...(error.retryAfter === null ? {} : { after: error.retryAfter }) });
    }
  };
}
