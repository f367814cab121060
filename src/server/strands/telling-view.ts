import { contractOf } from '../../core/platforms';
import { mayChange } from '../../core/people/rights';
import { reasonWords } from '../../core/reasons/words';
import type { OutcomeRule } from '../../core/outcomes';
import { qualifiedOutcome, type Release } from '../../core/releases';
import type { TellingView, TraceView } from '../../core/strands';
import type { OutcomeRow, ReportBackRow, RoleRow } from '../db';
import type { TraceFacts } from './trace-facts';
import { moneyWords } from './trace-events';

type Facts = Pick<
  TraceFacts,
  'way' | 'outcomes' | 'reportBacks' | 'attempts' | 'release' | 'strand' | 'enquiry' | 'clickedAt' | 'sentOn'
>;

/** What was or will be told: a card for each account, else one that says why there is none. */
export function tellingViews(facts: Facts, role: RoleRow): TraceView['telling'] {
  const { outcomes, reportBacks } = facts;
  if (outcomes.length === 0) return [notReached(facts)].flatMap((view) => view ?? []);
  const cards = outcomes.flatMap((outcome) =>
    reportBacks
      .filter(({ outcomeId }) => outcomeId === outcome.id)
      .map((reportBack) => cardOf(facts, outcome, reportBack, role)),
  );
  return cards.length > 0 ? cards : [cardOf(facts, outcomes[0]!, null, role)];
}

const ruleOf = ({ content }: Release, code: string): OutcomeRule | undefined =>
  content.outcomes.find((rule) => rule.code === code);

function notReached({ way, release, enquiry, sentOn }: Facts): TellingView | null {
  if (sentOn?.fetchedAt === null) return null;
  const rule = qualifiedOutcome(release, way);
  if (!rule) return null;
  return {
    heading:
      way === 'order'
        ? 'What will be told once they order'
        : way === 'subscription'
          ? 'What will be told once they pay'
          : way === 'conversion'
            ? 'What will be told once they convert'
            : 'What will be told once it qualifies',
    rows: [
      { name: 'Outcome', value: rule.words, mono: false, note: `\`${rule.code}\`` },
      ...(rule.reachedBy.kind === 'stage'
        ? [
            {
              name: 'Reached at',
              value: `stage ${rule.reachedBy.stage} or later`,
              mono: false,
              note: enquiry?.stage ? `now at ${enquiry.stage}` : '',
            },
          ]
        : []),
      { name: 'In time', value: `if the click is no older than ${rule.clickDays} days`, mono: false, note: '' },
    ],
    attempts: [],
    unsure: null,
  };
}

/** By what a platform was told of it. */
const keyWords = ({ keyKind, keyValue }: ReportBackRow) =>
  keyKind === 'click_id'
    ? { name: 'Click ID', value: keyValue, mono: true }
    : {
        name: 'Known by',
        value: keyKind === 'mail_hash' ? 'email address, hashed' : 'telephone number, hashed',
        mono: false,
      };

function cardOf(
  { release, attempts, clickedAt }: Facts,
  outcome: OutcomeRow,
  reportBack: ReportBackRow | null,
  role: RoleRow,
): TellingView {
  const rule = ruleOf(release, outcome.code);
  const contract = contractOf(reportBack?.platform ?? '', release.content.platforms);
  const platform = contract?.words ?? reportBack?.platform ?? '';
  const at = reportBack && clickedAt.get(reportBack.keyValue);
  const days = at === null || at === undefined ? null : Math.floor((outcome.happenedAt.getTime() - at) / 86_400_000);
  return {
    heading: headingOf(reportBack, platform),
    rows: [
      {
        name: 'Outcome',
        value: rule?.words ?? outcome.code,
        mono: false,
        note: `\`${outcome.code}\`${reportBack && reportBack.toldAs !== outcome.code ? `, told as \`${reportBack.toldAs}\`` : ''}`,
      },
      ...(reportBack ? [{ ...keyWords(reportBack), note: '' }] : []),
      { name: 'Worth', mono: false, ...worthOf(outcome, reportBack, role) },
      ...(days !== null && rule
        ? [
            {
              name: 'In time',
              value: `click was ${days} days old, ${Math.min(rule.clickDays, contract?.limits.clickDays ?? Infinity)} allowed`,
              mono: false,
              note: '',
            },
          ]
        : []),
      {
        name: 'State',
        value: reportBack?.state ?? 'nothing to tell',
        mono: false,
        note: reportBack?.reason ? reasonWords(reportBack.reason).text : '',
      },
    ],
    attempts: attempts
      .filter(({ reportBackId }) => reportBackId === reportBack?.id)
      .map((a) => ({ at: a.startedAt.toISOString(), status: a.status, answer: a.answer })),
    unsure: reportBack?.state === 'unsure' && mayChange(role) ? { reportBack: reportBack.id, platform } : null,
  };
}

function headingOf(reportBack: ReportBackRow | null, platform: string): string {
  if (!reportBack) return 'No platform is told';
  if (reportBack.correction > 0)
    return reportBack.state === 'confirmed' ? `How ${platform} was corrected` : `A correction for ${platform}`;
  if (reportBack.state === 'held') return 'What is held back';
  if (reportBack.state === 'unsure') return `What ${platform} may have been told`;
  return reportBack.answeredAt ? `What ${platform} was told` : `What ${platform} will be told`;
}

const causeWords: Record<OutcomeRow['changeCause'], string> = {
  '': '',
  amount: 'its amount changed since',
  refund: 'after a refund',
  chargeback: 'after a chargeback',
};

function worthOf(
  outcome: OutcomeRow,
  reportBack: ReportBackRow | null,
  role: RoleRow,
): { value: string; note: string } {
  if (!role.seesMoney) return { value: 'hidden', note: '' };
  const words = (minor: number | string) => moneyWords({ minor: Number(minor), currency: outcome.currency });
  const tells = reportBack?.tellsMinor ?? null;
  if (reportBack && reportBack.correction > 0 && tells !== null)
    return { value: words(tells), note: causeWords[outcome.changeCause] };
  const money = words(outcome.worthMinor);
  if (outcome.correctedMinor !== null)
    return { value: money, note: `now ${words(outcome.correctedMinor)}, ${causeWords[outcome.changeCause]}` };
  if (tells !== null && Number(tells) !== Number(outcome.worthMinor))
    return { value: money, note: `told as ${words(tells)}` };
  if (outcome.winRateOf === null) return { value: money, note: '' };
  return { value: `${money} expected`, note: `${outcome.winRateWon} of ${outcome.winRateOf} are won` };
}
