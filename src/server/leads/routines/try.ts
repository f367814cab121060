/* eslint-disable no-await-in-loop -- steps are few and come one after the other */
import { AvrixError, fieldsWrong } from '../../../core/errors';
import { mailFor, type RoutineMeans, type Step } from '../../../core/leads/routines/routine';
import { stepPieces } from '../../../core/leads/routines/sentence';
import { tryWriteMail } from '../../../core/leads/routines/mail-text';
import type { TriedView } from '../../../core/leads/routines/view';
import type { Beside } from '../../../core/rules/says';
import { sayPieces } from '../../../core/rules/says';
import type { Release } from '../../../core/releases';
import { nowMs } from '../../clock';
import type { Context } from '../../context';
import type { Crms } from '../../crms/crm';
import { readLeadFinding } from '../find';
import type { BusinessRow } from '../../db';
import { hashMail } from '../../secrets';
import { readMailSettings } from '../../mail/settings';
import { isStopped } from '../../mail/stops';
import type { Membership } from '../../people/people';
import type { CampaignNames } from '../../plan/campaign-names';
import { ServiceAway } from '../../platforms/call';
import type { Releases } from '../../releases/releases';
import { called, hiddenName, nameless } from '../called';
import { findEnquiries } from '../queries';
import { readDueAfter } from './step';
import { addressOf, factsOf, letGoWhy, readWhom, type Whom } from './whom';

/** Says what a routine would do with one lead, without doing any of it. */
export function makeTryRoutine(context: Context, releases: Releases, crms: Crms, campaignNames: CampaignNames) {
  const { db, tables, config } = context;

  /** The newest enquiry that an ID, email address, telephone number, company or number names. @throws AVX_FIELD_WRONG */
  async function enquiryOf({ business, role }: Membership, text: string, release: Release): Promise<string> {
    if (/^[0-9a-f-]{36}$/.test(text)) return text;
    const finding = await readLeadFinding(db, business.id, release, text, config.secretKey);
    const order = { sort: 'sentAt', descending: 'yes' } as const;
    const narrowing = { quality: 'any' } as const;
    const [found] = await findEnquiries(db, business.id, order, finding, role.seesPeople, { limit: 1 }, narrowing);
    if (!found)
      throw fieldsWrong([
        {
          field: 'enquiry',
          was: `no lead is known by “${text}”`,
          fix: 'Paste an email address, a telephone number, a company, a CRM number or a click ID.',
        },
      ]);
    return found;
  }

  /** The email that a step would send. */
  async function mailOf(
    step: Step,
    whom: Whom,
    business: BusinessRow,
    release: Release,
    to: string,
  ): Promise<Pick<TriedView['steps'][number], 'problem' | 'mail'>> {
    const id = mailFor(step, whom.enquiry.form);
    const template = id ? await tables.mailTemplates.findOne({ where: { businessId: business.id, id } }) : null;
    if (!template) return { problem: 'No email is there for the form.', mail: null };
    const link = `${config.edgeOrigin}/stop/${business.key}/…`;
    const facts = factsOf(whom, business, release, await campaignNames.get(business.id), link);
    const written = tryWriteMail(template.get({ plain: true }).body, facts);
    if ('problem' in written) return { problem: `${written.problem}.`, mail: null };
    const isStopping = to !== '' && (await isStopped(context, business.id, hashMail(config.secretKey, to)));
    const problem = isStopping
      ? 'They want no emails.'
      : to === ''
        ? 'No email address is known yet: it would wait for the CRM’s record.'
        : '';
    return { problem, mail: { to, subject: written.subject, text: written.text } };
  }

  return async function tryOn(
    membership: Membership,
    means: RoutineMeans,
    text: string,
    beside: Beside,
  ): Promise<TriedView> {
    const { business, role } = membership;
    const release = await releases.live(business.id);
    const whom = await readWhom(context, business.id, await enquiryOf(membership, text, release), release);
    if (!whom) throw new AvrixError('AVX_NOT_FOUND', { what: 'enquiry' });
    const [dueAfter, settings] = await Promise.all([
      readDueAfter(context, business),
      readMailSettings(context, business.id),
    ]);
    const needsAddress = means.steps.some(({ does }) => does === 'mail');
    const to = needsAddress
      ? await addressOf(context, crms, whom).catch((error: unknown) => {
          if (error instanceof ServiceAway) return '';
          throw error;
        })
      : '';
    const steps: TriedView['steps'] = [];
    let at = nowMs();
    for (const step of means.steps) {
      at = dueAfter(at, step);
      const sends = step.does === 'mail' || step.does === 'tell_mail';
      const own = step.does === 'mail' ? await mailOf(step, whom, business, release, to) : { problem: '', mail: null };
      const { mail } = own;
      steps.push({
        id: step.id,
        at: new Date(at).toISOString(),
        words: sayPieces(stepPieces, step, beside).replace(/^[^:]*: /, ''),
        problem: own.problem || (sends && !settings ? 'No mail server is known.' : ''),
        mail: mail && (role.seesPeople ? mail : { ...mail, to: mail.to && hiddenName, text: '' }),
      });
    }
    const why = letGoWhy(whom, means.letGo, release);
    return {
      lead: called(whom.lead ?? { company: '', name: '' }, role.seesPeople, nameless(whom.enquiry.wayIn)),
      enquiryId: whom.enquiry.id,
      stops: why && `It would be let go at once: ${why}.`,
      steps,
    };
  };
}
export type TryRoutine = ReturnType<typeof makeTryRoutine>;
