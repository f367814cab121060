import type { Hop, Mark } from '../strands/types';
import { waysIn, type WayIn } from '../ways-in';
import type { Reason } from './codes';

/** A reason as a person reads it. Values stand between backticks, to be set in the mono face. */
export interface ReasonWords {
  /** One line, for a list. */
  text: string;
  /** Two or three words, for the drawing. */
  short: string;
  /** The one thing to do; '' where there is nothing to mend. */
  mend: string;
}

const days = (n: number) => `${n} ${n === 1 ? 'day' : 'days'}`;

/** The words for a reason. Forms are named by their words where `formWords` knows them. */
export function reasonWords(
  reason: Reason,
  formWords: (form: string) => string = (f) => f,
  way: Pick<WayIn, 'didNot' | 'own'> = waysIn.form,
): ReasonWords {
  const words = wordsOf(reason, formWords, way);
  return { ...words, text: words.text.charAt(0).toUpperCase() + words.text.slice(1) };
}

/** Why a report-back stopped, beside its state: that it is held is not said twice. */
export function stoppedWords(reason: Reason): ReasonWords {
  const words = reasonWords(reason);
  const text = words.text.replace(/^Held: /, '');
  return { ...words, text: text.charAt(0).toUpperCase() + text.slice(1) };
}

function wordsOf(
  reason: Reason,
  formWords: (form: string) => string,
  { didNot, own }: Pick<WayIn, 'didNot' | 'own'>,
): ReasonWords {
  switch (reason.code) {
    case 'cookies_blocked':
      return {
        text: 'The browser keeps no cookies',
        short: 'browser keeps no cookies',
        mend: 'Nothing to fix: these visitors switched cookies off.',
      };
    case 'not_kept':
      return {
        text: 'The value arrived and was not kept',
        short: 'not kept',
        mend: 'Look whether another script on the page clears cookies.',
      };
    case 'kept_changed':
      return {
        text: 'Another value was kept than the one that arrived',
        short: 'another value kept',
        mend: 'Look whether another script writes the same cookie.',
      };
    case 'visit_ended':
      return { text: didNot, short: didNot, mend: '' };
    case 'visit_running':
      return { text: 'Still on the website', short: 'still on the website', mend: '' };
    case 'not_paid_yet':
      return { text: 'No payment was posted yet', short: 'no payment yet', mend: '' };
    case 'form_no_rule':
      return {
        text: `No rule fills the click ID into ${formWords(reason.form)}`,
        short: 'no rule fills the form',
        mend: `Add a hidden field for the click ID to ${formWords(reason.form)}, and a fill rule for it.`,
      };
    case 'form_field_missing':
      return {
        text: `${formWords(reason.form)} has no hidden field \`${reason.field}\``,
        short: `no field \`${reason.field}\``,
        mend: `Add the hidden field \`${reason.field}\` to ${formWords(reason.form)}.`,
      };
    case 'form_field_near':
      return {
        text: `${formWords(reason.form)} has \`${reason.near}\`, the rule fills \`${reason.field}\``,
        short: `field is \`${reason.near}\``,
        mend: `Rename the hidden field \`${reason.near}\` to \`${reason.field}\`.`,
      };
    case 'form_value_differs':
      return {
        text: `${formWords(reason.form)} sent another value in \`${reason.field}\` than the visit carried`,
        short: 'another value sent',
        mend: `Look what else writes into \`${reason.field}\` on the page.`,
      };
    case 'gone_there':
      return {
        text: `${reason.platform} keeps what people sent for ${days(reason.days)}; it was gone before it was fetched`,
        short: `gone after ${days(reason.days)}`,
        mend: 'Keep the account connected: what is sent from now on is fetched within minutes.',
      };
    case 'crm_not_yet':
      return { text: 'Not in the CRM yet', short: 'not in the CRM yet', mend: '' };
    case 'no_crm':
      return { text: 'No CRM is connected', short: 'no CRM connected', mend: 'Connect the CRM that enquiries go to.' };
    case 'crm_never':
      return {
        text: 'No CRM record came within 24 hours',
        short: 'never reached the CRM',
        mend:
          own === 'sent_there'
            ? 'Look among the lead forms what the CRM answered.'
            : 'Look at the form’s back end: does it still post to the CRM?',
      };
    case 'crm_field_differs':
      return {
        text: `${formWords(reason.form)} sends \`${reason.sent}\`, the CRM reads \`${reason.read}\``,
        short: `form sends \`${reason.sent}\`, CRM reads \`${reason.read}\``,
        mend: `In ${formWords(reason.form)}, rename the hidden field \`${reason.sent}\` to \`${reason.read}\`.`,
      };
    case 'crm_value_empty':
      return {
        text: `The CRM’s field \`${reason.read}\` is empty`,
        short: `\`${reason.read}\` empty`,
        mend:
          own === 'called'
            ? `Have \`${reason.read}\` written: nobody types what a call came by. Add a rule in Leads, Written back.`
            : `Look whether the form’s back end passes \`${reason.read}\` on.`,
      };
    case 'crm_value_changed':
      return {
        text: `The CRM holds another value in \`${reason.read}\` than was sent`,
        short: `\`${reason.read}\` changed`,
        mend: `Look at the length and the rules of the CRM’s field \`${reason.read}\`.`,
      };
    case 'not_qualified_yet':
      return { text: `At stage ${reason.stage}`, short: 'not qualified yet', mend: '' };
    case 'disqualified':
      return { text: `Ended at stage ${reason.stage}`, short: 'ended without it', mend: '' };
    case 'no_enquiry':
      return { text: `Was no enquiry: ${reason.what}`, short: 'was no enquiry', mend: '' };
    case 'deal_deleted':
      return { text: 'Its record was deleted in the CRM', short: 'deleted in the CRM', mend: '' };
    case 'deal_merged':
      return {
        text: `The CRM merged \`${reason.deal}\` into \`${reason.into}\`, which goes on`,
        short: `merged into \`${reason.into}\``,
        mend: '',
      };
    case 'click_too_old':
      return {
        text: `The click was ${reason.limit} days old or older`,
        short: `click over ${days(reason.limit)}`,
        mend: reason.earlier
          ? `Count “${reason.earlier.stage}” as well: this deal reached it ${reason.earlier.days === 0 ? 'on the day of the click' : `${days(reason.earlier.days)} after the click`}, in time.`
          : 'Count an earlier stage as well: it comes while the click is still young enough.',
      };
    case 'told_too_late':
      return {
        text: `The outcome was more than ${days(reason.limit)} old before it could be told`,
        short: 'told too late',
        mend: 'Check what held it back.',
      };
    case 'no_platform_to_tell':
      return { text: 'Came through no platform that is told', short: 'no platform to tell', mend: '' };
    case 'no_account':
      return {
        text: `No account of ${reason.platform} is connected`,
        short: 'no account connected',
        mend: `Connect an account of ${reason.platform}.`,
      };
    case 'account_off':
      return {
        text: `The account of ${reason.platform} is ${reason.how}`,
        short: `account ${reason.how}`,
        mend:
          reason.how === 'paused'
            ? `Let the account of ${reason.platform} go on.`
            : `Tell another account of ${reason.platform}.`,
      };
    case 'no_click_in_crm':
      return {
        text: 'Held: no click ID in the CRM, known from the visit',
        short: 'held: no click ID in the CRM',
        mend: 'Fix the form first; then the click ID can be put back.',
      };
    case 'crm_click_differs':
      return {
        text: 'Held: the CRM’s click ID is not the one of the visit',
        short: 'held: another click ID',
        mend: 'Check which of the two is right before anything is told.',
      };
    case 'no_worth':
      return {
        text: `Held: the deal has no amount in \`${reason.field}\``,
        short: 'held: no amount',
        mend: `Fill in \`${reason.field}\` on the deal in the CRM.`,
      };
    case 'not_due':
      return { text: 'Not due yet', short: 'not due yet', mend: '' };
    case 'not_answered':
      return reason.status === 'not sent'
        ? { text: 'The platform could not be reached; tried again', short: 'not reached yet', mend: '' }
        : { text: `No answer yet (${reason.status}); tried again`, short: 'no answer yet', mend: '' };
    case 'maybe_taken':
      return {
        text: `No answer came, and ${reason.platform} does not recognise repeats: it may be taken`,
        short: 'unsure whether taken',
        mend: `Look in ${reason.platform} whether it is there, and say so here.`,
      };
    case 'no_customer':
      return {
        text: `Held: staff or a bot, ${markWords[reason.mark]}`,
        short: `staff or a bot: ${markWords[reason.mark]}`,
        mend: '',
      };
    case 'left_stage':
      return {
        text: `Held: the deal went from ${reason.stage} to ${reason.leftFor} before the platform was told`,
        short: `held: went to ${reason.leftFor}`,
        mend: 'Nothing to fix: it is told if the deal comes back to that stage.',
      };
    case 'no_consent':
      return {
        text: 'Held: no consent to tell platforms',
        short: 'held: no consent',
        mend: 'Nothing to fix: this person did not agree to it, or took it back.',
      };
    case 'refused':
      return {
        text: `${reason.platform} refused: ${reason.answer}`,
        short: `refused: ${reason.answer}`,
        mend: refusalMend(reason.answer),
      };
    case 'probably_same':
      return {
        text: `Held: probably the same as order \`${reason.as}\`, with the same amounts shortly before`,
        short: `held: probably order \`${reason.as}\``,
        mend: 'Look at both: let it go where it is another order, withdraw it where it is the same.',
      };
    case 'held_by':
      return { text: `Held by ${reason.by}`, short: `held by ${reason.by}`, mend: 'Let it go once it may be told.' };
    case 'withdrawn_by':
      return {
        text: `Withdrawn by ${reason.by}`,
        short: `withdrawn by ${reason.by}`,
        mend: 'Nothing to fix: somebody decided that it is not told.',
      };
    case 'worked_out':
      return {
        text: 'Only worked out: it is told another way',
        short: 'only worked out',
        mend: 'Compare both ways, then switch over.',
      };
    case 'tested':
      return {
        text: `Tested: ${reason.platform} answered “${reason.answer}”, and counted nothing`,
        short: `tested: ${reason.answer}`,
        mend: 'Nothing to fix: the rule says that it is asked as a test.',
      };
    case 'no_person_key':
      return {
        text: `Held: no click is known, and the CRM has no ${personKeyWords[reason.key]}`,
        short: `held: no ${reason.key === 'mail' ? 'email' : 'telephone'}`,
        mend: `Fill in the ${personKeyWords[reason.key]} in the CRM.`,
      };
    case 'taken_back':
      return {
        text: `Held: taken back before it was told, by a ${reason.cause === 'chargeback' ? 'chargeback' : 'refund'}`,
        short: 'held: taken back',
        mend: 'Nothing to fix: nothing is told of what was given back.',
      };
    case 'brake':
      return {
        text: `Held: ${brakeWords[reason.because]}`,
        short: reason.because === 'new' ? 'held: the first of its kind' : 'held: far from usual',
        mend: 'Look at some of them, then let all go or withdraw them.',
      };
    case 'change_not_taken':
      return {
        text: `Held: ${reason.platform} takes no corrections, so what it was told stands there`,
        short: 'held: takes no corrections',
        mend: `Correct it in ${reason.platform} by hand, or withdraw the correction.`,
      };
    case 'change_too_late':
      return {
        text: `Held: ${reason.platform} takes corrections for ${days(reason.limit)}, so what it was told stands there`,
        short: 'held: too late to correct',
        mend: `Correct it in ${reason.platform} by hand, or withdraw the correction.`,
      };
    case 'other_currency':
      return {
        text: 'Held: its amount is in another currency since it was told',
        short: 'held: another currency',
        mend: 'Put the amount back into the currency that was told, in the program that changed it.',
      };
    case 'changed_back':
      return { text: 'The worth is again what was told', short: 'worth is as told', mend: '' };
    case 'not_in_report':
      return {
        text: `Taken; not in ${reason.platform}’s report yet`,
        short: 'not in the report yet',
        mend: '',
      };
    case 'unexplained':
      return {
        text: 'No reason is known',
        short: 'unexplained',
        mend: 'Open the landing page yourself and look whether it answers slowly.',
      };
  }
}

const personKeyWords = {
  mail: 'email address',
  telephone: 'telephone number with its country, such as +44 …',
} as const;

const brakeWords: Record<'count' | 'worth' | 'age' | 'new', string> = {
  count: 'far more than usual came within a day',
  worth: 'worth far more than usual came within a day',
  age: 'clicks far older than usual came within a day',
  new: 'the first of this outcome for this account wait for a look',
};

/** Why something is no customer. */
export const markWords: Record<Mark, string> = {
  '': '',
  bot: 'says it is a bot',
  network: 'from one of your networks',
  browser: 'a browser of yours, marked by its link',
  host: 'on a host that only you open',
  mail: 'with a mail address of yours',
  test: 'a test lead of a platform',
};

function refusalMend(answer: string): string {
  if (answer === 'no such click') return 'Look whether the click came from another account of the platform.';
  if (answer === 'no such outcome') return 'Make the outcome on the platform under the same code.';
  if (answer === 'click too old') return 'Count an earlier stage as well.';
  if (answer === 'told too late') return 'Let outcomes be told sooner; look whether something held them.';
  return 'Look at the row that was sent.';
}

/** The words for what the platforms reported beyond the landings. */
export const missingLandings: ReasonWords = {
  text: 'Clicks that were counted and never landed',
  short: 'clicked, never landed',
  mend: 'Open the landing page from the ad or the short link and see whether it loads fast and keeps its address.',
};

/** The station whose node shows a loss: one loss, one place. */
export function lossStation(to: Hop): 'Links' | 'Capture' | 'Leads' | 'Report-backs' {
  if (to === 'landed' || to === 'clicked') return 'Links';
  if (to === 'kept' || to === 'form_sent' || to === 'called') return 'Capture';
  return to === 'fetched' || to === 'imported' || to === 'in_crm' ? 'Leads' : 'Report-backs';
}
