import { reasonWords } from '../reasons/words';
import type { Followed } from './follow';
import type { Line } from './line';
import { valueWords } from '../leads/values';
import type { changedOnTheWay } from './trace';
import { count, counted } from '../counted';
import { beginsElsewhere, type WayIn } from '../ways-in';
import { countedHop } from './toward';
import { hopWords, isAlone, type Hop, type StrandKind } from './types';

export { count, counted } from '../counted';

/** What a page opens with: one sentence with what matters now, and one smaller line under it. */
export interface Sentence {
  title: string;
  under: string;
}

/**
 * The sentence of a way in's line: how many that came in with a known paid click went on to what matters, and what became
 * of the rest.
 *
 * @param beside what came in in the same days without any known click or tagged landing
 * @param of what it is narrowed to: "of Winterproof on Quillsearch", "in “Bakers”"; '' for everything
 * @param outcome the code that it is counted by; '' for the Qualified of its way in
 */
export function lineSentence(
  line: Line,
  beside: number,
  way: WayIn,
  formWords: (form: string) => string,
  of = '',
  outcome = '',
): Sentence {
  const whole = wholeSentence(line, beside, way, formWords);
  if (of === '' && outcome === '') return whole;
  const beginning = [of, outcome].filter(Boolean).join(', ').replace(/^of /, '').replace(/^in /, 'In ');
  const own = line.columns[way.hops.indexOf(way.own)]!.count ?? 0;
  const landed = beginsElsewhere(way) ? 0 : (line.columns[1]!.count ?? 0);
  if (own + beside + landed === 0)
    return {
      title: `${beginning}: no ${way.one} in these days.`,
      under: 'Choose other days, another way in, or everything again.',
    };
  const { title, under } = whole;
  const reached = line.columns[way.hops.indexOf(countedHop(way))]!.count ?? 0;
  return {
    title: `${beginning}: ${title.charAt(0).toLowerCase()}${title.slice(1)}`,
    under: outcome === '' ? under : `${count(reached)} reached ${outcome}. ${under}`,
  };
}

function wholeSentence(line: Line, beside: number, way: WayIn, formWords: (form: string) => string): Sentence {
  if (beginsElsewhere(way)) return elsewhereSentence(line, way, formWords);
  const landed = line.columns[1]?.count ?? 0;
  const own = line.withClickId[way.own] ?? 0;
  const matters = line.withClickId[way.matters] ?? 0;
  if (landed === 0 && beside === 0)
    return {
      title: 'Nothing has arrived in these days.',
      under: 'The line begins with the first tagged landing on a page that carries the snippet.',
    };
  if (own === 0)
    return {
      title: `${counted(landed, 'tagged landing', 'tagged landings')}, no ${way.one} with a known paid click yet.`,
      under: besideWords(beside, way),
    };
  return {
    title: way.opening(own, matters),
    under: [worstWords(line, way, formWords), besideWords(beside, way)].filter(Boolean).join(' '),
  };
}

/** The largest loss before what matters; without one how many were confirmed. */
function worstWords(line: Line, way: WayIn, formWords: (form: string) => string): string {
  const worst = line.losses.find((loss) => loss.to === way.matters) ?? (beginsElsewhere(way) ? line.losses[0] : null);
  return worst
    ? `${counted(worst.strands, 'was', 'were')} lost there: ${inSentence(reasonWords(worst.reason, formWords, way).text)}.`
    : `${counted(line.columns.at(-1)!.count ?? 0, 'is', 'are')} confirmed by the platform so far.`;
}

function elsewhereSentence(line: Line, way: WayIn, formWords: (form: string) => string): Sentence {
  const own = line.columns[0]!.count ?? 0;
  const matters = line.columns[way.hops.indexOf(way.matters)]!.count ?? 0;
  if (own === 0) return { title: `No ${way.one} in these days.`, under: 'Each is here within minutes of being sent.' };
  return { title: way.opening(own, matters), under: worstWords(line, way, formWords) };
}

function besideWords(beside: number, { one, many }: WayIn): string {
  if (beside === 0) return '';
  return beside === 1
    ? `1 more ${one} came without any known click; it is listed beside the line.`
    : `${count(beside)} more ${many} came without any known click; they are listed beside the line.`;
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
  called: 'at the call',
  sent_there: 'in the platform’s form',
  fetched: 'in what was fetched',
  imported: 'in the list',
  ordered: 'at the order',
  paid: 'at the payment',
  converted: 'at the conversion',
  in_crm: 'in the CRM',
  qualified: 'in the CRM',
  told: 'in what was told',
  confirmed: 'in the platform’s report',
};

const notMade: Partial<Record<Hop, string>> = {
  landed: 'did not arrive with the landing',
  kept: 'was not kept',
  form_sent: 'was not sent with the form',
  fetched: 'was gone before it was fetched',
  ordered: 'was not there at the order',
  in_crm: 'stopped at the CRM',
};

/**
 * The sentence of a trace: where the value is now, or where and why it stopped; and which values changed on the way,
 * which is not fine even where every hop was made.
 */
export function traceSentence(
  kind: StrandKind,
  way: WayIn,
  { stop }: Followed,
  platform: string,
  formWords: (form: string) => string,
  changed: ReturnType<typeof changedOnTheWay>,
): string {
  const [first] = changed;
  if (stop?.state === 'lost' || !first) return whereItIs(kind, way, stop, platform, formWords);
  const isThere = first.hop === 'in_crm' && stop?.hop === 'qualified';
  return `${cameTo(kind, way, stop, platform)}, but ${changedClause(kind, changed, isThere)}.`;
}

/** What changed on the way, as the end of a sentence. @param isThere whether it was said already where that is */
export function changedClause(
  kind: StrandKind,
  [first, ...others]: ReturnType<typeof changedOnTheWay>,
  isThere = false,
): string {
  const { value, hop, how } = first!;
  const isItself = kind === 'landing' && value === 'campaign';
  const where = isThere ? 'there' : atHop[hop];
  const what = how === 'empty' ? `is empty ${where}` : `changed ${where}: ${how}`;
  const more = others.length > 0 ? `; ${counted(others.length, 'more value', 'more values')} changed too` : '';
  return `${isItself ? 'it' : `its ${valueWords[value]}`} ${what}${more}`;
}

/** What is followed, by what a strand is. */
const followedOf: Record<StrandKind, string> = {
  click: 'The click ID',
  landing: 'The campaign',
  lead_form: 'This lead',
  enquiry: 'This enquiry',
  call: 'This call',
  import: 'This lead',
  order: 'This order',
  subscription: 'This subscription',
  conversion: 'This conversion',
};

/** What is told is counted before: an enquiry that qualified, an order that came in, a subscription that was paid for. */
const counts = ({ hops, own }: WayIn): string =>
  hops.includes('qualified')
    ? 'It qualified'
    : own === 'paid'
      ? 'It was paid'
      : own === 'converted'
        ? 'It converted'
        : 'It was ordered';

/** How far it came, as the beginning of a sentence. */
function cameTo(kind: StrandKind, way: WayIn, stop: Followed['stop'], platform: string): string {
  if (!stop) return `${platform} confirmed it`;
  if (stop.hop === 'told') return counts(way);
  if (stop.hop === 'confirmed') return 'It was told';
  if (stop.hop === 'qualified') return `${followedOf[kind]} is in the CRM`;
  return `${followedOf[kind]} was ${stop.hop === 'in_crm' ? 'sent' : 'kept'}`;
}

function whereItIs(
  kind: StrandKind,
  way: WayIn,
  stop: Followed['stop'],
  platform: string,
  formWords: (form: string) => string,
): string {
  const what = followedOf[kind];
  if (!stop) return `Every hop made it: ${platform} confirmed it.`;
  if (stop.hop === 'fetched') return 'What this person sent was gone before it was fetched.';
  const words = stop.reason ? plainText(reasonWords(stop.reason, formWords, way).text) : '';
  const done = way.hops.includes('qualified') ? 'Qualified' : hopWords[way.own];
  if (stop.state === 'lost') {
    if (stop.hop === 'confirmed') return `${done} and told, but ${inSentence(words)}.`;
    if (stop.hop === 'told') return `${done}, but not told: ${inSentence(words)}.`;
    return `${what} ${notMade[stop.hop] ?? `was lost on the way to ${hopWords[stop.hop]}`}.`;
  }
  if (isAlone({ kind }) && stop.hop === 'landed') return `Where this ${way.one} came from is not known.`;
  if (stop.hop === way.own)
    return stop.state === 'left'
      ? `${what} was kept; the visitor ${way.didNot}.`
      : `${what} is kept; the visitor ${way.mayStill}.`;
  if (stop.hop === 'in_crm') return `${what} was sent and is not in the CRM yet.`;
  if (stop.hop === 'qualified')
    return stop.state === 'left'
      ? `${what} reached the CRM; the deal ended without qualifying.`
      : `${what} is in the CRM; not qualified yet. ${words}.`;
  if (stop.reason?.code === 'maybe_taken') return `${done}; it is not sure whether ${platform} took it.`;
  if (stop.hop === 'told')
    return stop.state === 'left'
      ? `${done}; it came through no platform that is told.`
      : `${done}; not told yet. ${words}.`;
  return `Told and taken; it is not in ${platform}’s own report yet.`;
}
