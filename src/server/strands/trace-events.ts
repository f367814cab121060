import { movesOf, qualityWords, type Quality } from '../../core/leads';
import { callLength } from '../../core/leads/calls';
import { listed } from '../../core/listed';
import { contractOf } from '../../core/platforms';
import { minorDigits, noStages, type Money, type OutcomeEvidence } from '../../core/outcomes';
import { quoteValue } from '../../core/quote-value';
import { originWords, type Release } from '../../core/releases';
import { clickStrandId, counted, type TraceEvent, type BoughtWayIn } from '../../core/strands';
import type { CrmWriteRow, OutcomeRow, EnquiryRow } from '../db';
import type { KnownDeal } from '../leads/deals-of';
import type { CallRow } from '../leads/calls/table';
import { enquiredBy } from '../leads/enquired';
import type { TraceFacts } from './trace-facts';

/** An amount with its currency, without empty minor units: "£540", "€12.50". */
export function moneyWords({ minor, currency }: Money): string {
  const digits = minorDigits(currency);
  const whole = minor % 10 ** digits === 0;
  return new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency,
    minimumFractionDigits: whole ? 0 : digits,
    maximumFractionDigits: digits,
  }).format(minor / 10 ** digits);
}

/** Everything that happened on the way, oldest first, each with who saw it. Values stand between backticks. */
export function traceEvents(facts: TraceFacts, forms: (form: string) => string): TraceEvent[] {
  const { touches, enquiry, bought, deals, release, outcomes, reportBacks, attempts, sentOn, strand } = facts;
  const { platforms } = release.content;
  const events: [at: number, text: string, seenBy: string, of?: string][] = [];
  if (enquiry && sentOn) {
    const ad = strand.content ? `, from the ad \`${strand.content}\`` : '';
    events.push([strand.firstAt, `Sent “${enquiry.form}” on ${sentOn.platform}${ad}`, sentOn.platform]);
    if (sentOn.fetchedAt !== null) events.push([sentOn.fetchedAt, `Fetched from ${sentOn.platform}`, 'Avrix']);
  }
  for (const touch of touches.filter(
    ({ because }) => because !== 'lead_form' && because !== 'call' && because !== 'import',
  )) {
    const from = originWords(release, touch.source, touch.medium, touch.referrer);
    const page = touch.landing.replace(/^[^/]+/, '') || '/';
    const how = touch.clickId
      ? `Paid click: ${from}, landed on \`${page}\``
      : `${touch.because === 'outside_referrer' ? 'Came from' : 'Landed from'} ${from.replace(/^Link on (.*)$/, '`$1`')} on \`${page}\``;
    const passedOver = isPassedOver(touch, facts) ? '; passed over for a later click' : '';
    const differs = touch.because === touch.pageBecause ? '' : '; the page had decided otherwise';
    events.push([touch.at.getTime(), how + passedOver + differs, 'page']);
  }
  if (enquiry?.wayIn === 'import')
    events.push([enquiry.sentAt.getTime(), `Brought in from “${enquiry.form}”`, 'a list']);
  if (bought?.at) {
    events.push([bought.at.getTime(), boughtWords[bought.kind](bought.number), 'page']);
  }
  if (enquiry?.hitId) {
    // Several rules may look for one field, and rules for all forms look for fields that this one never had.
    const lines = enquiry.fills ?? [];
    const had = new Set(
      lines.filter(({ state }) => state !== 'not_found' && state !== 'near').map(({ field }) => field),
    );
    const filled = new Set(lines.filter(({ state }) => state === 'filled').map(({ field }) => field));
    const words = forms(enquiry.form);
    events.push([
      enquiry.sentAt.getTime(),
      `Sent ${words}; ${filled.size} of ${counted(had.size, 'hidden field', 'hidden fields')} filled`,
      'page',
    ]);
  }
  for (const deal of enquiry ? deals : [])
    for (const [at, text] of dealEvents(deal, enquiry!, deals.length > 1, release)) events.push([at, text, 'CRM']);
  for (const other of facts.others) {
    const { id, form, sentAt, wayIn } = other.enquiry;
    if (form) events.push([sentAt.getTime(), enquiredBy(other.enquiry, forms), seenBy[wayIn], id]);
    for (const deal of other.deals)
      for (const [at, text] of dealEvents(deal, other.enquiry, true, release)) events.push([at, text, 'CRM', id]);
  }
  for (const call of facts.calls) events.push([call.startedAt.getTime(), callWords(call, enquiry!), 'telephone']);
  if (enquiry?.saidAt) {
    const reason = enquiry.saidReason ? `: ${enquiry.saidReason}` : '';
    const text = `Said to be ${qualityWords[enquiry.saidQuality as Quality]}${reason}`;
    events.push([enquiry.saidAt.getTime(), text, enquiry.saidBy]);
  }
  for (const write of facts.writes)
    events.push([(write.writtenAt ?? write.madeAt).getTime(), writeWords(write), write.byName || 'Avrix']);
  for (const { at, text, seenBy: by, enquiryId } of facts.routineEvents)
    events.push([at, text, by, enquiryId === enquiry?.id ? '' : enquiryId]);
  for (const { code, evidence, happenedAt, worthChange, changeCause, changedAt } of outcomes) {
    events.push([happenedAt.getTime() + 1, `Counted \`${code}\` once${evidenceWords(evidence)}`, 'Avrix']);
    if (changedAt && worthChange !== '')
      events.push([changedAt.getTime(), changeWords(code, worthChange, changeCause), 'Avrix']);
  }
  for (const attempt of attempts) {
    const reportBack = reportBacks.find((r) => r.id === attempt.reportBackId);
    const platform = contractOf(reportBack?.platform ?? '', platforms)?.words ?? 'the platform';
    const bySomeone = / saw there$/.test(attempt.answer);
    const answer = attempt.status === '200' || bySomeone ? attempt.answer : `no row answer (${attempt.status})`;
    const tells = reportBack && reportBack.correction > 0 ? `Told ${platform} its new worth` : `Told ${platform}`;
    const text = bySomeone ? `Said of ${platform}: ${answer}` : `${tells}: ${answer}`;
    events.push([attempt.startedAt.getTime() + 2, text, bySomeone ? 'a person' : platform]);
  }
  for (const { confirmedAt, platform, correction } of reportBacks)
    if (confirmedAt && correction === 0)
      events.push([
        confirmedAt.getTime() + 3,
        `In ${contractOf(platform, platforms)?.words ?? platform}’s own report`,
        contractOf(platform, platforms)?.words ?? platform,
      ]);
  return events
    .sort((a, b) => a[0] - b[0])
    .map(([at, text, seenBy, of = '']) => ({ at: new Date(at).toISOString(), text, seenBy, of }));
}

/** How an outcome came to be worth something else. */
function changeWords(code: string, change: OutcomeRow['worthChange'], cause: OutcomeRow['changeCause']): string {
  if (change === 'other_currency') return `The amount of \`${code}\` is in another currency since it was told`;
  if (change === 'taken_back')
    return `\`${code}\` taken back: ${cause === 'amount' ? 'no amount is left' : `a ${cause}`}`;
  return `\`${code}\` is worth something else: ${cause === 'amount' ? 'its amount changed' : `a ${cause}`}`;
}

/** Who sees what comes in by a way. */
const seenBy: Record<EnquiryRow['wayIn'], string> = {
  form: 'page',
  lead_form: 'platform',
  call: 'telephone',
  import: 'a list',
};

/** A call of an enquiry, with the code that was said. */
function callWords({ answered, seconds, reference, found }: CallRow, { form }: EnquiryRow): string {
  const length = answered ? `${callLength(seconds)} minutes` : 'not answered';
  const said =
    reference === '' ? '' : `; said ${quoteValue(reference)}${found === 'code' ? '' : ', a code that no visit has'}`;
  return `Called “${form}”, ${length}${said}`;
}

/** That a routine moved the record on, or what came of it. */
function stageWords(state: CrmWriteRow['state'], answer: string, stage: string): string {
  switch (state) {
    case 'waiting':
      return `About to be moved to ${stage} in the CRM`;
    case 'written':
      return `Moved to ${stage} in the CRM from here`;
    case 'refused':
      return `The CRM did not move it to ${stage}: ${answer}`;
    case 'dropped':
      return `Left where it is in the CRM: ${answer}`;
  }
}

/** What was written into the CRM's record, or came of it. */
function writeWords({ cause, state, answer, fields }: CrmWriteRow): string {
  if (cause === 'stage') return stageWords(state, answer, fields[0]!.becomes);
  const what = cause === 'note' ? 'a note' : listed(fields.map(({ field }) => quoteValue(field)));
  switch (state) {
    case 'waiting':
      return `About to write ${what} in the CRM`;
    case 'written':
      return cause === 'repair' ? `Put ${what} back in the CRM` : `Wrote ${what} in the CRM`;
    case 'refused':
      return `The CRM did not take ${what}: ${answer}`;
    case 'dropped':
      return `Left ${what} in the CRM as it is: ${answer}`;
  }
}

/** What happened to a deal in the CRM, at (ms). @param isOneOf whether its enquiry has others, so that it is named */
function dealEvents(
  { record, goneAt, mergedInto, took }: KnownDeal,
  { joinedBy, fills }: EnquiryRow,
  isOneOf: boolean,
  { content }: Release,
): [at: number, text: string][] {
  const named = isOneOf ? ` ${quoteValue(record.deal)}` : '';
  const unknown = (fills ?? [])
    .filter((line) => line.state === 'filled' && !(line.field in record.fields))
    .map((line) => quoteValue(line.field));
  const ignored = unknown.length > 0 ? `; ${unknown.join(', ')} ignored, no such field` : '';
  const moves = movesOf(record, content.crm?.stages ?? noStages)
    .filter(({ at }) => at > record.madeAt)
    .map(({ at, stage, isBack, skipped }): [number, string] => [
      at,
      `${isOneOf ? `Deal${named} moved` : 'Moved'}${isBack ? ' back' : ''} to ${stage}${skipped.length > 0 ? `, past ${listed(skipped)}` : ''}`,
    ]);
  const gone: [number, string][] =
    goneAt === null
      ? []
      : [
          [
            goneAt,
            mergedInto ? `Merged${named} into ${quoteValue(mergedInto)} in the CRM` : `Deleted${named} in the CRM`,
          ],
        ];
  return [
    [record.madeAt, `Deal ${quoteValue(record.deal)} made in the CRM${joinedWords[joinedBy ?? 'nothing']}${ignored}`],
    ...moves,
    ...took.map(({ number, at }): [number, string] => [
      at,
      `Took in ${quoteValue(number)}, which the CRM merged into it`,
    ]),
    ...gone,
  ];
}

const joinedWords: Record<NonNullable<EnquiryRow['joinedBy']>, string> = {
  'lead token': ', joined by its lead token',
  'click ID': ', joined by its click ID',
  person: ', joined to an earlier enquiry of the same person',
  nothing: ', joined to no visit',
};

/** Whether a paid click before something was bought is not the one it is counted for: its platform had a later one. */
const isPassedOver = (
  { businessId, platform, clickId, at }: TraceFacts['touches'][number],
  { bought }: TraceFacts,
): boolean =>
  bought !== null &&
  bought.at !== null &&
  clickId !== '' &&
  at <= bought.at &&
  !bought.strands.includes(clickStrandId(businessId, platform, clickId));

const boughtWords: Record<BoughtWayIn, (number: string) => string> = {
  order: (number) => `Ordered, number \`${number}\``,
  subscription: (number) => `Signed up for a subscription, number \`${number}\``,
  conversion: (name) => `Converted by \`${name}\``,
};

/** What showed that an outcome was reached, as the end of a sentence. */
function evidenceWords(evidence: OutcomeEvidence): string {
  switch (evidence.kind) {
    case 'stage':
      return `, at ${evidence.stage}${evidence.skipped ? ', its own stage was passed over' : ''}`;
    case 'field':
      return `, as \`${evidence.name}\` became \`${evidence.value}\``;
    case 'postback':
      return `, as ${evidence.sender} posted \`${evidence.step}\``;
    case 'event':
      return `, by the event \`${evidence.event}\``;
    case 'page':
      return `, on \`${evidence.path}\``;
    case 'file':
      return `, as a file says \`${evidence.says}\``;
    case 'order':
      return '';
  }
}
