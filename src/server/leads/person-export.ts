import { AvrixError } from '../../core/errors';
import { now } from '../clock';
import type { Context } from '../context';
import { plain } from '../db';
import type { Membership } from '../people/people';
import { unseal } from '../secrets';
import { mostOfPerson, readPerson } from './person';

/** Rows of one kind that an export holds; more are said to be missing. */
const mostRows = mostOfPerson;

/** All that is stored of one person, as a file: what they may be given when they ask for it. */
export function makePersonExport(context: Context) {
  const { tables, config } = context;
  /** Rows as they are stored, without the business that all are of. */
  const without = <Row extends { businessId: string }>(rows: Row[]): Omit<Row, 'businessId'>[] =>
    rows.map(({ businessId: _, ...row }) => row);
  const opened = (sealed: Buffer | null) => (sealed ? unseal(config.secretKey, sealed) : null);

  return {
    /**
     * The person of an enquiry with everything that is known of them: records, enquiries, calls, deals, what was counted and
     * told, and what their browsers sent. Email addresses and telephone numbers are stored as keyed hashes and stand there as
     * such, but for those that wait for the CRM.
     * @throws AVX_ROLE_TOO_SMALL where somebody may not see people, AVX_NOT_FOUND
     */
    async ofEnquiry({ business, role }: Membership, id: string): Promise<Response> {
      if (!role.seesPeople) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'see people' });
      const businessId = business.id;
      const { lead, records, enquiries: own, visitorIds: visitorId } = await readPerson(context, businessId, id);
      const leadId = records.map((row) => row.id);
      const [identities, deals] = await Promise.all([
        tables.identities.findAll({ where: { businessId, leadId }, limit: mostRows }),
        tables.deals.findAll({ where: { businessId, leadId }, limit: mostRows }),
      ]);
      const enquiryId = own.map((row) => row.id);
      const ofVisitors = { where: { businessId, visitorId }, limit: mostRows };
      const [acts, calls, sentOn, writes, visits, touches, hits, orders, events] = await Promise.all([
        tables.routineActs.findAll({ where: { businessId, enquiryId }, limit: mostRows }),
        tables.calls.findAll({ where: { businessId, enquiryId }, limit: mostRows }),
        tables.platformLeads.findAll({ where: { businessId, enquiryId }, limit: mostRows }),
        tables.crmWrites.findAll({ where: { businessId, enquiryId }, limit: mostRows }),
        tables.visits.findAll(ofVisitors),
        tables.touches.findAll(ofVisitors),
        tables.hits.findAll(ofVisitors),
        tables.orders.findAll(ofVisitors),
        tables.events.findAll(ofVisitors),
      ]);
      const subjectId = [...enquiryId, ...plain(orders).map((row) => row.id)];
      const ofSubjects = { where: { businessId, subjectId }, limit: mostRows };
      const [outcomes, reportBacks] = await Promise.all([
        tables.outcomes.findAll(ofSubjects),
        tables.reportBacks.findAll(ofSubjects),
      ]);
      const reportBackId = plain(reportBacks).map((row) => row.id);
      const attempts = await tables.attempts.findAll({ where: { businessId, reportBackId }, limit: mostRows });
      const all = {
        records: without(records),
        knownBy: without(plain(identities)),
        enquiries: without(own),
        calls: without(plain(calls)).map((call) => ({ ...call, caller: opened(call.caller) })),
        sentOnPlatforms: without(plain(sentOn)).map((one) => ({ ...one, answers: opened(one.answers) })),
        deals: without(plain(deals)),
        doneByRoutines: without(plain(acts)).map((act) => ({ ...act, sent: opened(act.sent) })),
        writtenToCrm: without(plain(writes)),
        outcomes: without(plain(outcomes)),
        reportBacks: without(plain(reportBacks)),
        attempts: without(plain(attempts)),
        orders: without(plain(orders)),
        events: without(plain(events)),
        visits: without(plain(visits)),
        touches: without(plain(touches)),
        hits: without(plain(hits)),
      };
      const cut = Object.entries(all).flatMap(([name, rows]) => (rows.length >= mostRows ? [name] : []));
      const body = { business: business.name, madeAt: now(), timesIn: 'UTC', cutAt: mostRows, cut, ...all };
      return new Response(JSON.stringify(body, null, 1), {
        headers: {
          'content-type': 'application/json; charset=utf-8',
          'content-disposition': `attachment; filename="person-${lead?.personId ?? id}.json"`,
        },
      });
    },
  };
}
