import { AvrixError, fieldsWrong } from '../../core/errors';
import type { TellingRule } from '../../core/outcomes/schema';
import { mayChange } from '../../core/people/rights';
import { stoppedWords } from '../../core/reasons/words';
import {
  comparedKey,
  compareDays,
  compareTold,
  timeOf,
  type Compared,
  type ComparedDay,
  type ToldRow,
} from '../../core/reportbacks/compare';
import type { CompareQuery } from '../../core/reportbacks/compare-schema';
import type { ComparedTelling, CompareView, DifferenceRow } from '../../core/reportbacks/compare-view';
import { count, counted, type Sentence } from '../../core/strands';
import { nowMs } from '../clock';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { dayIn, dayWords, instantIn } from '../days';
import { plain, type RoleRow } from '../db';
import type { Membership } from '../people/people';
import type { Accounts } from '../platforms/accounts';
import { requireEditor, type Draft } from '../releases/draft';
import { moneyWords } from '../strands/trace-events';
import { readOld, readOurs, readReported, type OurRow, type Ours } from './compare-queries';

/** Days that are compared. */
const span = 28;
/** Differences that are shown. */
const shown = 100;
const day = 86_400_000;

/** What Avrix would tell, beside what another way of telling told, until one is switched over. */
export function makeComparing(context: Context, draft: Draft, accounts: Accounts, connections: Connections) {
  const { db, tables } = context;

  /** Tellings that are only worked out, or begin at a stated moment; by the live rule, or by the draft where none is live. */
  async function readTellings(businessId: string): Promise<(ComparedTelling & { rule: TellingRule })[]> {
    const [{ live, draft: edited }, names] = await Promise.all([
      draft.content(businessId),
      connections.names(businessId),
    ]);
    const isCompared = ({ how, from }: TellingRule) => how === 'worked out' || from !== '';
    const rules = new Map(edited.telling.map((rule) => [comparedKey(rule), rule]));
    for (const rule of live.telling) if (isCompared(rule)) rules.set(comparedKey(rule), rule);
    return [...rules].flatMap(([key, rule]) => {
      if (!isCompared(rule)) return [];
      const written = edited.telling.find((one) => comparedKey(one) === key);
      const { outcome, account, from } = rule;
      const accountName = names.find((one) => one.key === account)?.name ?? account;
      const isLive = live.telling.some((one) => comparedKey(one) === key && isCompared(one));
      return [
        {
          key,
          outcome,
          account,
          accountName,
          from: isLive ? from : '',
          fromInDraft: written?.from ?? '',
          isLive,
          rule,
        },
      ];
    });
  }

  return {
    async view({ business, role }: Membership, { of, against, as }: CompareQuery): Promise<CompareView> {
      const tellings = await readTellings(business.id);
      const chosen = tellings.find(({ key }) => key === of) ?? tellings[0];
      const account = chosen ? await accounts.byKey(business.id, chosen.account) : null;
      const reported = account ? await readReported(db, business.id, account.id) : [];
      const common = {
        tellings: tellings.map(({ rule: _rule, ...one }) => one),
        chosen: chosen?.key ?? '',
        reported,
        span,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
      if (!chosen)
        return {
          ...common,
          sentence: {
            title: 'Nothing is only worked out.',
            under:
              'Before Avrix tells a platform what another way tells it now, let its rule in Outcomes say that it is only worked out; then both are compared here, and switched over at a stated moment.',
          },
          ...nothing,
        };
      const files = await readFiles(business.id, chosen.key);
      const by = against || (files.length === 0 && reported.length > 0 ? 'report' : 'file');
      const zone = account?.settings.timeZone ?? business.timeZone;
      const since = new Date(nowMs() - span * day);
      const ours = await readOurs(db, business.id, chosen, since);
      const common2 = { ...common, against: by, files } as const;
      if (by === 'report') {
        const name = reported.includes(as)
          ? as
          : (reported.find((one) => one === (chosen.rule.as || chosen.outcome)) ?? reported[0] ?? '');
        const days = await compareReport(
          business.id,
          account?.id ?? '',
          name,
          ours,
          zone,
          dayIn(zone, since.getTime()),
        );
        const sums = sumsOf(days);
        return {
          ...common2,
          as: name,
          days,
          sums,
          differences: [],
          differing: 0,
          sentence: sentenceOf(chosen, sums, sums.ours === sums.old ? 0 : 1, by, business.timeZone, {
            stillTold: sumsOf(
              days.filter((one) => chosen.from !== '' && one.day > dayIn(zone, Date.parse(chosen.from))),
            ).old,
          }),
        };
      }
      const old = await readOld(
        db,
        business.id,
        files.map(({ id }) => id),
        since,
      );
      const compared = compareTold(ours.told, old);
      const days = compareDays(compared, (at) => dayIn(zone, at));
      const sums = sumsOf(days);
      const differing = compared.filter(({ kind }) => kind !== 'same');
      return {
        ...common2,
        as: '',
        days,
        sums,
        differences: differing.slice(0, shown).map((one) => toRow(one, ours, role)),
        differing: differing.length,
        sentence: sentenceOf(chosen, sums, differing.length, by, business.timeZone, { hasFiles: files.length > 0 }),
      };
    },

    /**
     * States the moment from which Avrix tells what it only worked out; it holds once it is live.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async switchOver(membership: Membership, personId: string, key: string, at: string): Promise<void> {
      requireEditor(membership);
      const moment = instantIn(membership.business.timeZone, at);
      if (moment === null || moment <= nowMs())
        throw fieldsWrong([
          { field: 'at', was: 'the moment is no later than now', fix: 'Choose one that is still to come.' },
        ]);
      const { draft: edited } = await draft.content(membership.business.id);
      const rule = edited.telling.find((one) => comparedKey(one) === key);
      if (!rule) throw new AvrixError('AVX_NOT_FOUND', { what: 'rule' });
      await draft.change(membership, personId, [
        { kind: 'telling', id: key, value: { ...rule, how: 'told', from: new Date(moment).toISOString() }, from: rule },
      ]);
    },
  };

  async function readFiles(businessId: string, key: string): Promise<CompareView['files']> {
    const rows = plain(
      await tables.filedFiles.findAll({ where: { businessId, state: 'taken' }, order: [['at', 'DESC']], limit: 500 }),
    );
    return rows
      .filter(({ how }) => how.compares === key)
      .map(({ id, name, at, counts }) => ({ id, name, at: at.toISOString(), rows: counts.taken }));
  }

  /** By the platform's own report: how many there were on each day of the click, without those that Avrix told. */
  async function compareReport(
    businessId: string,
    accountId: string,
    outcome: string,
    { told, booked }: Ours,
    zone: string,
    from: string,
  ): Promise<ComparedDay[]> {
    const rows = plain(await tables.outcomeReports.findAll({ where: { businessId, accountId, outcome } }));
    const days = new Map<string, ComparedDay>();
    const add = (on: string, side: 'ours' | 'old', n: number) => {
      if (on < from) return;
      const known = days.get(on) ?? { day: on, ours: 0, old: 0, same: 0 };
      days.set(on, { ...known, [side]: known[side] + n });
    };
    for (const { day: on, counted: n } of rows) add(on, 'old', n);
    for (const on of booked) add(on, 'old', -1);
    for (const { clickedAt } of told) if (clickedAt !== null) add(dayIn(zone, clickedAt), 'ours', 1);
    return [...days.values()]
      .map((one) => ({ ...one, old: Math.max(0, one.old) }))
      .filter(({ ours, old }) => ours + old > 0)
      .map((one) => ({ ...one, same: Math.min(one.ours, one.old) }))
      .sort((a, b) => (a.day < b.day ? 1 : -1));
  }
}

const nothing = {
  against: 'file',
  as: '',
  files: [],
  days: [],
  sums: { ours: 0, old: 0, same: 0 },
  differences: [],
  differing: 0,
} as const satisfies Partial<CompareView>;

function toRow(one: Compared, { known }: Ours, { seesMoney }: RoleRow): DifferenceRow {
  const row = one.ours ?? one.old!;
  const money = (side: ToldRow | null) =>
    side && seesMoney && side.currency !== '' ? moneyWords({ minor: side.minor, currency: side.currency }) : '';
  const ours = known.get(row.clickId);
  return {
    id: `${one.kind} ${row.id}`,
    kind: one.kind === 'same' ? 'worth' : one.kind,
    clickId: row.clickId,
    at: new Date(timeOf(one)).toISOString(),
    ours: money(one.ours),
    old: money(one.old),
    why: one.kind !== 'only old' ? '' : ours ? whyNot(ours) : 'No outcome is counted by this click.',
    path: ours?.strandId ? `/strands/${ours.strandId}` : '',
  };
}

const whyNot = ({ state, reason }: OurRow): string =>
  reason && reason.code !== 'worked_out'
    ? `${stoppedWords(reason).text}.`
    : state === 'withdrawn' || state === 'held'
      ? 'It is told once, and the other way told it again.'
      : 'The other way told it again.';

const sumsOf = (days: readonly ComparedDay[]) =>
  days.reduce((sum, one) => ({ ours: sum.ours + one.ours, old: sum.old + one.old, same: sum.same + one.same }), {
    ours: 0,
    old: 0,
    same: 0,
  });

function sentenceOf(
  { outcome, accountName, from, isLive }: ComparedTelling,
  { ours, old, same }: CompareView['sums'],
  differing: number,
  by: CompareView['against'],
  timeZone: string,
  { hasFiles = true, stillTold = 0 }: { hasFiles?: boolean; stillTold?: number },
): Sentence {
  if (!isLive)
    return {
      title: `${accountName} is still told of ${outcome} by Avrix.`,
      under: 'That it is only worked out is not live yet. Make it live, then both ways are compared here.',
    };
  const isOver = from !== '' && Date.parse(from) <= nowMs();
  const title =
    by === 'file' && !hasFiles
      ? `Avrix would tell ${accountName} of ${counted(ours, 'conversion', 'conversions')} in ${span} days.`
      : `Avrix ${isOver ? 'tells' : 'would tell'} ${count(ours)} of ${outcome}, the other way ${by === 'file' ? 'told' : 'counts'} ${count(old)}.`;
  const under =
    by === 'file' && !hasFiles
      ? `Import what the other way told ${accountName}, as a file, to compare both row by row.`
      : isOver
        ? stillTold > 0
          ? `${accountName} counts ${counted(stillTold, 'conversion', 'conversions')} of clicks since then that Avrix did not tell: is the other way still telling?`
          : `Switched over on ${dayWords(Date.parse(from), timeZone)}.`
        : differing === 0
          ? 'They agree. Set the time from which Avrix tells, and stop the other way then.'
          : by === 'file'
            ? `${count(same)} agree in ${span} days, ${counted(differing, 'row differs', 'rows differ')}; each says why.`
            : `By day of the click, in ${span} days.`;
  return { title, under };
}
