import type { Transaction } from 'sequelize';
import type { Happening, PaymentNotice } from '../../core/outcomes';
import { mailHashField } from '../../core/platforms/contract';
import { qualifiedOutcome } from '../../core/releases';
import {
  isAlone,
  nilId,
  type BoughtWayIn,
  type Hop,
  type HopRow,
  type KnownConsent,
  type Mark,
  type Strand,
} from '../../core/strands';
import type { Context } from '../context';
import { insertRows, plain, type OutcomeRow } from '../db';
import type { Releases } from '../releases/releases';
import type { Brakes } from '../reportbacks/brakes';
import { readTellingHops, writeReportBacks } from '../reportbacks/write';
import { replaceHops } from '../strands/replace-hops';
import { fromStrandRow, lockStrands, toStrandRow } from '../strands/store';
import { countOutcomes } from './count';

/** An order, a subscription or a conversion with what happened to it: what it is counted for needs no CRM. */
export interface Bought {
  id: string;
  /** IDs of the strands that it may be counted for, the newest first. */
  strands: string[];
  /** Its strand where none of those is there. */
  alone: Strand;
  lastPaid: string | null;
  marked: Mark;
  consent: KnownConsent | null;
  /** The number of the order that it is probably the same as; '' for none. */
  sameAs: string;
  happenings: Happening[];
  notices: PaymentNotice[];
  /** Its own hops on a strand that are not written with the visit. @param outcome the *Qualified* of its way in, once reached */
  hopsOn(strand: Strand, outcome: OutcomeRow | undefined): HopRow[];
}

/**
 * Follows what was bought to its outcomes, counted once, and to what is to be told of them.
 *
 * @param replaced the hops that are written here, Told and Confirmed aside
 * @returns the strands that each is counted for, by its ID
 */
export async function followBought(
  { context, releases, brakes }: { context: Context; releases: Releases; brakes: Brakes },
  businessId: string,
  wayIn: BoughtWayIn,
  bought: Bought[],
  replaced: Hop[],
  transaction: Transaction,
): Promise<Map<string, Strand[]>> {
  const strandsOf = await readStrands(context, businessId, bought, transaction);
  const own = [...new Set([...strandsOf.values()].flat().map(({ id }) => id))].sort();
  await lockStrands(context.db, businessId, own, transaction);
  const outcomes = await countOutcomes(
    context,
    releases,
    businessId,
    bought.map(({ id, happenings, notices, marked }) => ({
      subject: { kind: wayIn, id },
      happenings,
      notices,
      isMarked: marked !== '',
    })),
    transaction,
  );
  const ownOutcomes = ({ id }: Bought): OutcomeRow[] =>
    (outcomes.get(id) ?? []).filter(({ subjectId }) => subjectId === id);
  const told = bought.flatMap((one) =>
    ownOutcomes(one).map((outcome) => ({
      outcome,
      strands: strandsOf.get(one.id)!,
      lastPaid: one.lastPaid,
      marked: one.marked,
      consent: one.consent,
      crmClickId: null,
      stageChanges: [],
      sameAs: one.sameAs,
      knownBy: hashedMailOf(one.happenings),
    })),
  );
  await writeReportBacks(context, releases, brakes, businessId, told, transaction);

  const release = await releases.live(businessId);
  const rule = qualifiedOutcome(release, wayIn);
  const hops: HopRow[] = [];
  const counted = [];
  for (const one of bought) {
    const outcome = (outcomes.get(one.id) ?? []).find(({ code }) => code === rule?.code);
    for (const strand of strandsOf.get(one.id)!) {
      const own = one.hopsOn(strand, outcome);
      if (isUnseen(strand, one.id) && own.length > 0) hops.push(...unknownHops(strand, release.number));
      hops.push(...own);
      const key = { strand: strand.id, wayIn, subject: one.id, release: release.number };
      if (outcome) counted.push({ key, outcome, clickId: strand.clickId });
    }
  }
  hops.push(...(await readTellingHops(context, businessId, counted, release.content.platforms, transaction)));
  await replaceHops(
    context,
    businessId,
    bought.map(({ id, alone }) => ({
      subject: id,
      strands: strandsOf.get(id)!.map((strand) => strand.id),
      alone: alone.id,
    })),
    hops,
    [...replaced, 'told', 'confirmed'],
    transaction,
  );
  return strandsOf;
}

/** The email address that an event took along, hashed. */
function hashedMailOf(happenings: readonly Happening[]): { mail?: string } {
  const mail = happenings.map(({ fields }) => fields[mailHashField] ?? '').find((hash) => /^[0-9a-f]{64}$/.test(hash));
  return mail === undefined ? {} : { mail };
}

/** The strands of each that are there; where none is, its own alone, which is stored. */
async function readStrands(
  { tables }: Context,
  businessId: string,
  bought: Bought[],
  transaction: Transaction,
): Promise<Map<string, Strand[]>> {
  const wanted = [...new Set(bought.flatMap(({ strands }) => strands))];
  const rows = plain(await tables.strands.findAll({ where: { businessId, id: wanted }, transaction }));
  const known = new Map(rows.map((row) => [row.id, fromStrandRow(row)]));
  const strandsOf = new Map(
    bought.map(({ id, strands, alone }): [string, Strand[]] => {
      const there = strands.flatMap((one) => known.get(one) ?? []);
      return [id, there.length > 0 ? there : [alone]];
    }),
  );
  await insertRows(
    tables.strands,
    [...strandsOf.values()]
      .flat()
      .filter(isAlone)
      .map((strand) => toStrandRow(businessId, strand)),
    ['firstAt', 'marked'],
    transaction,
  );
  return strandsOf;
}

/** Whether a strand is of one thing alone: no known click brought it, or only a file says that there was one. */
const isUnseen = (strand: Strand, id: string): boolean => isAlone(strand) || strand.visitor === id;

/** Of what no known click brought nothing is known of what was before it. */
const unknownHops = (strand: Strand, release: number): HopRow[] =>
  (['clicked', 'landed', 'kept'] as const).map((hop) => ({
    strand: strand.id,
    wayIn: 'none',
    subject: nilId,
    outcome: '',
    hop,
    state: 'unknown',
    reason: null,
    evidence: 'none',
    at: null,
    release,
  }));
