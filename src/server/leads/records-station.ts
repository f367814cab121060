import { AvrixError } from '../../core/errors';
import { groupBy } from '../../core/group-by';
import { movesOf, type JoinedBy } from '../../core/leads';
import type {
  JoinedView,
  OddDealView,
  PairGiven,
  RecordsView,
  RecordView,
  SharedView,
} from '../../core/leads/records-view';
import { listed } from '../../core/listed';
import { noStages } from '../../core/outcomes';
import { mayChange } from '../../core/people/rights';
import { quoteValue } from '../../core/quote-value';
import { counted, nilId, type Sentence } from '../../core/strands';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type LeadRow, type RowOf } from '../db';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { called } from './called';
import { rejoinPeople } from './people';
import { readDealMoves, readJoinedPersons, readNewestEnquiries, readRecordsOf, readShared } from './records-queries';
import type { leadPairs } from './table';

/** Of each list the newest that are shown. */
const [mostShown, mostOdd] = [100, 500];
/** The newest deals that are looked at for what is odd. */
const newestDeals = 5000;

/** Which records are one person's, which are shared, and what the CRM did to its deals. */
export function makeRecordsStation(context: Context, releases: Releases, changes: Changes) {
  const { db, tables } = context;

  /** Records by their IDs, as they are shown. */
  async function readRecords(businessId: string, ids: string[], seesPeople: boolean): Promise<Map<string, RecordView>> {
    const asked = [...new Set(ids)];
    const [rows, newest] = await Promise.all([
      tables.leads.findAll({ where: { businessId, id: asked } }),
      readNewestEnquiries(db, businessId, asked),
    ]);
    return new Map(plain(rows).map((row) => [row.id, toRecord(row, newest.get(row.id) ?? '', seesPeople)]));
  }

  async function readOdd(businessId: string, seesPeople: boolean): Promise<{ odd: OddDealView[]; lookedAt: number }> {
    const stages = (await releases.live(businessId)).content.crm?.stages ?? noStages;
    const rows = await readDealMoves(db, businessId, newestDeals);
    const odd = rows.flatMap((row): OddDealView[] => {
      const words = called(row, seesPeople);
      const of = { number: row.number, words, enquiryId: row.enquiryId };
      const moves = movesOf(row, stages).flatMap(({ at, stage, isBack, skipped }, i): OddDealView[] => {
        const move = { ...of, id: `${row.id} ${i}`, at: new Date(at).toISOString() };
        if (isBack) return [{ ...move, kind: 'moved back', text: `to ${stage}` }];
        return skipped.length > 0
          ? [{ ...move, kind: 'skipped', text: `${listed(skipped)}, on the way to ${stage}` }]
          : [];
      });
      if (!row.goneAt) return moves;
      const gone = { ...of, id: row.id, at: row.goneAt.toISOString() };
      return [
        ...moves,
        row.mergedInto
          ? { ...gone, kind: 'merged', text: `into ${quoteValue(row.mergedInto)}` }
          : { ...gone, kind: 'deleted', text: '' },
      ];
    });
    return { odd: odd.sort((a, b) => (a.at < b.at ? 1 : -1)), lookedAt: rows.length };
  }

  async function view({ business, role }: Membership): Promise<RecordsView> {
    const [persons, several, pairs, { odd, lookedAt }] = await Promise.all([
      readJoinedPersons(db, business.id, mostShown),
      readShared(db, business.id, mostShown),
      tables.leadPairs.findAll({
        where: { businessId: business.id, kind: 'apart' },
        order: [['at', 'DESC']],
        limit: mostShown,
      }),
      readOdd(business.id, role.seesPeople),
    ]);
    const joinedRows = await readRecordsOf(db, business.id, persons.personIds);
    const apartRows = plain(pairs);
    const records = await readRecords(
      business.id,
      [
        ...joinedRows.map(({ id }) => id),
        ...several.shared.flatMap(({ records: own }) => own.map(({ leadId }) => leadId)),
        ...apartRows.flatMap(({ leadId, otherId }) => [leadId, otherId]),
      ],
      role.seesPeople,
    );
    const identitiesOf = groupBy(
      plain(
        await tables.identities.findAll({ where: { businessId: business.id, leadId: joinedRows.map(({ id }) => id) } }),
      ),
      ({ leadId }) => leadId,
    );
    const knownBy = (id: string) => identitiesOf.get(id)?.length ?? 0;
    const byPerson = groupBy(joinedRows, ({ personId }) => personId);
    const joined = persons.personIds.flatMap((id): JoinedView[] => {
      const rows = byPerson.get(id) ?? [];
      // What the CRM merged away is known by its number alone.
      const [first, ...others] = [...rows].sort((a, b) => knownBy(b.id) - knownBy(a.id) || (a.id < b.id ? -1 : 1));
      if (!first) return [];
      return [
        {
          ...records.get(first.id)!,
          others: others.map((row) => ({
            ...records.get(row.id)!,
            ...joinedOf(row.joinedBy === '' ? first : row),
          })),
        },
      ];
    });
    const shared = several.shared.map(({ kind, hash, records: own }): SharedView => {
      const people = [...new Map(own.map((row) => [row.personId, row.leadId])).values()];
      return {
        id: `${kind} ${hash}`,
        kind,
        domain: kind === 'mail' ? (own[0]?.mailDomain ?? '') : '',
        people: people
          .map((id) => records.get(id)!)
          .sort((a, b) => a.words.localeCompare(b.words, 'en') || a.number.localeCompare(b.number)),
      };
    });
    return {
      sentence: recordsSentence(persons.total, several, odd.length),
      joined,
      shared,
      apart: apartRows.map(({ leadId, otherId, byName, at }) => ({
        one: records.get(leadId)!,
        other: records.get(otherId)!,
        by: byName,
        at: at.toISOString(),
      })),
      odd: odd.slice(0, mostOdd),
      totals: { joined: persons.total, shared: several.mailboxes + several.telephones, odd: odd.length },
      lookedAt,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  return {
    view,

    /**
     * Keeps two records apart, joins them, or leaves them to the rules again. Apart, none of the person's other records
     * joins them either.
     * @throws AVX_NOT_FOUND, AVX_ROLE_TOO_SMALL
     */
    async setPair(membership: Membership, byName: string, { one, other, are }: PairGiven): Promise<RecordsView> {
      requireEditor(membership);
      const businessId = membership.business.id;
      await inTransaction(db, async (transaction) => {
        const rows = plain(await tables.leads.findAll({ where: { businessId, id: [one, other] }, transaction }));
        if (rows.length < 2) throw new AvrixError('AVX_NOT_FOUND', { what: 'record' });
        const { personId } = rows.find(({ id }) => id === one)!;
        const ofPerson = plain(await tables.leads.findAll({ where: { businessId, personId }, transaction }));
        const others = [...new Set([one, ...ofPerson.map(({ id }) => id)])].filter((id) => id !== other);
        const pairs = others.map((id) => {
          const [leadId, otherId] = [id, other].sort() as [string, string];
          return { businessId, leadId, otherId, kind: are, byName, at: now() };
        });
        await db.query('DELETE FROM lead_pairs WHERE business_id = ? AND (lead_id, other_id) IN (?)', {
          replacements: [businessId, pairs.map(({ leadId, otherId }) => [leadId, otherId])],
          transaction,
        });
        const made = are === 'apart' ? pairs : are === 'joined' ? pairs.slice(0, 1) : [];
        await tables.leadPairs.bulkCreate(made as RowOf<typeof leadPairs>[], { transaction });
        await rejoinPeople(context, businessId, [one, other], transaction);
        const names = rows.map((row) => (isCaller(row) ? 'a caller' : `\`${row.crmPerson}\``));
        const words = {
          apart: 'two people',
          joined: 'one person',
          'as the rules say': 'as their mail and telephone say',
        };
        await changes.note(
          businessId,
          membership.role.personId,
          [{ kind: 'lead', subject: `Records ${listed(names)}`, was: '', became: words[are] }],
          transaction,
        );
      });
      return view(membership);
    },
  };
}

/** By what, and since when, a record is of its person. */
const joinedOf = ({ joinedBy, joinedAt }: LeadRow) => ({
  by: joinedBy as JoinedBy,
  at: joinedAt!.toISOString(),
  mayPart: joinedBy !== 'record',
});

/** Whether nothing is known of somebody but that they called. */
const isCaller = ({ accountId }: LeadRow): boolean => accountId === nilId;

const toRecord = (row: LeadRow, enquiryId: string, seesPeople: boolean): RecordView => ({
  id: row.id,
  words: isCaller(row) ? 'a caller' : called(row, seesPeople),
  name: seesPeople && row.name !== row.company ? row.name : '',
  number: isCaller(row) ? '' : row.crmPerson,
  enquiryId,
});

function recordsSentence(
  joined: number,
  { mailboxes, telephones }: { mailboxes: number; telephones: number },
  odd: number,
): Sentence {
  const parts = [
    ...(mailboxes > 0 ? [counted(mailboxes, 'mailbox', 'mailboxes')] : []),
    ...(telephones > 0 ? [counted(telephones, 'telephone number', 'telephone numbers')] : []),
  ];
  const isOne = mailboxes + telephones === 1;
  const people = joined === 0 ? '' : `${counted(joined, 'person has', 'people have')} several records, joined as one`;
  const several =
    parts.length === 0 ? '' : `${listed(parts)} ${isOne ? 'is' : 'are'} shared and ${isOne ? 'joins' : 'join'} nobody`;
  const title = [people, several].filter(Boolean).join('; ');
  return {
    title: title
      ? `${title}.`
      : odd > 0
        ? 'Every person has one record.'
        : 'Every person has one record, and no deal took an odd way.',
    under:
      'Records with the same email or telephone number are one person’s where name and company agree. What the CRM merged is always one.',
  };
}
