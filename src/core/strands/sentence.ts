import { reasonWords } from '../reasons/words';
import type { Followed } from './follow';
import type { Line } from './line';
import { valueWords } from '../leads/schema';
import type { changedOnTheWay } from './trace';
import { hopWords, type Hop, type StrandKind } from './types';

/** What a page opens with: one sentence with what matters now, and one smaller line under it. */
export interface Sentence {
  title: string;
  under: string;
}

/** Plain numbers with thousands separators. */
export const count = (n: number): string => n.toLocaleString('en-GB');

/** "1 enquiry", "3 enquiries". */
export const counted = (n: number, one: string, many: string): string => `${count(n)} ${n === 1 ? one : many}`;

/**
 * The sentence of the line: how many enquiries with a known paid click still carry it in the CRM, and what became of
 * the rest.
 *
 * @param beside enquiries of the same days without any known click or tagged landing
 */
export function lineSentence(line: Line, beside: number, formWords: (form: string) => string): Sentence {
  const landed = line.columns[1]?.count ?? 0;
  const sent = line.withClickId.form_sent;
  const inCrm = line.withClickId.in_crm;
  if (landed === 0 && beside === 0)
    return {
      title: 'Nothing has arrived in these days.',
      under: 'The line begins with the first tagged landing on a page that carries the snippet.',
    };
  if (sent === 0)
    return {
      title: `${counted(landed, 'tagged landing', 'tagged landings')}, no enquiry with a known paid click yet.`,
      under: besideWords(beside),
    };
  const title =
    inCrm === sent
      ? sent === 1
        ? 'The one enquiry with a known paid click carries it in the CRM.'
        : `All ${count(sent)} enquiries with a known paid click carry it in the CRM.`
      : `Of ${counted(sent, 'enquiry', 'enquiries')} with a known paid click, ${count(inCrm)} still ${inCrm === 1 ? 'carries' : 'carry'} it in the CRM.`;
  const worst = line.losses.find((loss) => loss.to === 'in_crm');
  const confirmed = line.columns.at(-1)!.count ?? 0;
  const first = worst
    ? `${counted(worst.strands, 'was', 'were')} lost there: ${inSentence(reasonWords(worst.reason, formWords).text)}.`
    : `${counted(confirmed, 'is', 'are')} confirmed by the platform so far.`;
  return { title, under: [first, besideWords(beside)].filter(Boolean).join(' ') };
}

function besideWords(beside: number): string {
  if (beside === 0) return '';
  return beside === 1
    ? '1 more enquiry came without any known click; it is listed beside the line.'
    : `${count(beside)} more enquiries came without any known click; they are listed beside the line.`;
}

const plainText = (text: string) => text.replace(/`/g, '');
/** A reason in the middle of a sentence; names such as CRM keep their capitals. */
const inSentence = (text: string) =>
  /^(The|No|Another|Came|Did) /.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text;

/** Where a value is at a hop, within a sentence. */
const atHop: Record<Hop, string> = {
  clicked: 'at the click',
  landed: 'at the landing',
  kept: 'in the cookie',
  form_sent: 'in the form',
  in_crm: 'in the CRM',
  qualified: 'in the CRM',
  told: 'in what was told',
  confirmed: 'in the platform’s report',
};

const notMade: Partial<Record<Hop, string>> = {
  landed: 'did not arrive with the landing',
  kept: 'was not kept',
  form_sent: 'was not sent with the form',
  in_crm: 'stopped at the CRM',
};

/**
 * The sentence of a trace: where the value is now, or where and why it stopped; and which values changed on the way,
 * which is not fine even where every hop was made.
 */
export function traceSentence(
  kind: StrandKind,
  { stop }: Followed,
  platform: string,
  formWords: (form: string) => string,
  changed: ReturnType<typeof changedOnTheWay>,
): string {
  const [first, ...others] = changed;
  if (stop?.state === 'lost' || !first) return whereItIs(kind, stop, platform, formWords);
  const { value, hop, how } = first;
  const isItself = kind === 'landing' && value === 'campaign';
  const where = hop === 'in_crm' && stop?.hop === 'qualified' ? 'there' : atHop[hop];
  const what = how === 'empty' ? `is empty ${where}` : `changed ${where}: ${how}`;
  const more = others.length > 0 ? `; ${counted(others.length, 'more value', 'more values')} changed too` : '';
  return `${cameTo(kind, stop, platform)}, but ${isItself ? 'it' : `its ${valueWords[value]}`} ${what}${more}.`;
}

/** What is followed, by what a strand is. */
const followedOf: Record<StrandKind, string> = {
  click: 'The click ID',
  landing: 'The campaign',
  enquiry: 'This enquiry',
};

/** How far it came, as the beginning of a sentence. */
function cameTo(kind: StrandKind, stop: Followed['stop'], platform: string): string {
  if (!stop) return `${platform} confirmed it`;
  if (stop.hop === 'told' || stop.hop === 'confirmed') return stop.hop === 'told' ? 'It qualified' : 'It was told';
  if (stop.hop === 'qualified') return `${followedOf[kind]} is in the CRM`;
  return `${followedOf[kind]} was ${stop.hop === 'in_crm' ? 'sent' : 'kept'}`;
}

function whereItIs(
  kind: StrandKind,
  stop: Followed['stop'],
  platform: string,
  formWords: (form: string) => string,
): string {
  const what = followedOf[kind];
  if (!stop) return `Every hop made it: ${platform} confirmed it.`;
  const words = stop.reason ? plainText(reasonWords(stop.reason, formWords).text) : '';
  if (stop.state === 'lost') {
    if (stop.hop === 'confirmed') return `Qualified and told, but ${inSentence(words)}.`;
    if (stop.hop === 'told') return `Qualified, but not told: ${inSentence(words)}.`;
    return `${what} ${notMade[stop.hop] ?? `was lost on the way to ${hopWords[stop.hop]}`}.`;
  }
  if (kind === 'enquiry' && stop.hop === 'landed') return 'Where this enquiry came from is not known.';
  if (stop.hop === 'form_sent')
    return stop.state === 'left'
      ? `${what} was kept; the visitor did not enquire.`
      : `${what} is kept; the visitor may still enquire.`;
  if (stop.hop === 'in_crm') return `${what} was sent and is not in the CRM yet.`;
  if (stop.hop === 'qualified')
    return stop.state === 'left'
      ? `${what} reached the CRM; the deal ended without qualifying.`
      : `${what} is in the CRM; not qualified yet. ${words}.`;
  if (stop.reason?.code === 'maybe_taken') return `Qualified; it is not sure whether ${platform} took it.`;
  if (stop.hop === 'told')
    return stop.state === 'left'
      ? `Qualified; it came through no platform that is told.`
      : `Qualified; not told yet. ${words}.`;
  return `Told and taken; it is not in ${platform}’s own report yet.`;
}
