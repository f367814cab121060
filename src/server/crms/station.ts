import type { CrmRecord, CrmRule } from '../../core/leads';
import { followedValues, valueWords } from '../../core/leads';
import type { CrmEffectView, CrmOffersView, CrmStationView } from '../../core/outcomes/view';
import { mayChange } from '../../core/people/rights';
import { counted, type Sentence } from '../../core/strands';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { json, selectRows, text, whole } from '../db';
import type { Membership } from '../people/people';
import type { Accounts } from '../platforms/accounts';
import type { Draft } from '../releases/draft';
import { openCrm } from './crm';

/** The newest records that an effect is worked out from. */
const newestRecords = 200;

/** Which CRM leads are read from: its rule, what it can name, and what it would read of records that are there. */
export function makeCrmStation(context: Context, accounts: Accounts, draft: Draft, connections: Connections) {
  const { db } = context;

  const readRecords = (businessId: string) =>
    selectRows(
      db,
      { record: json<CrmRecord>().of('d.record'), form: text().of('e.form') },
      `FROM deals d JOIN enquiries e ON e.business_id = d.business_id AND e.id = d.enquiry_id
       WHERE d.business_id = ? ORDER BY d.made_at DESC LIMIT ${newestRecords}`,
      [businessId],
    );

  const readStages = (businessId: string) =>
    selectRows(
      db,
      { stage: text(), records: whole().of('COUNT(*)') },
      `FROM deals WHERE business_id = ? AND gone_at IS NULL AND stage <> '' GROUP BY stage
       ORDER BY COUNT(*) DESC LIMIT 100`,
      [businessId],
    );

  return {
    async view(membership: Membership): Promise<CrmStationView> {
      const { business, role } = membership;
      const [{ draft: edited, live, changed }, names, records, stagesSeen] = await Promise.all([
        draft.content(business.id),
        connections.names(business.id),
        readRecords(business.id),
        readStages(business.id),
      ]);
      const own = edited.crms.flatMap(({ reads, columns }) => [...reads.fields, ...(columns?.fields ?? [])]);
      const fields = [...records.flatMap(({ record }) => Object.keys(record.fields)), ...own.map(({ name }) => name)];
      return {
        sentence: crmSentence(live.crm, names, records.length, stagesSeen),
        rule: edited.crm,
        beside: { accounts: names },
        fields: [...new Set(fields)].sort(),
        stagesSeen,
        changed,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** Asks a CRM which fields and stages it has. @param key of its account */
    async offers({ business }: Membership, key: string): Promise<CrmOffersView> {
      const { draft: edited } = await draft.content(business.id);
      const account = await accounts.byKey(business.id, key);
      const crm = account && openCrm(context, account, edited.crms);
      if (!crm) return { fields: [], stages: null, why: 'No CRM of that name is connected.' };
      const { contract, ask } = crm;
      if (contract.gives === 'records') return { fields: [], stages: null, why: '' };
      try {
        const [fields, stages] = await Promise.all([ask(contract.fields), ask(contract.stages)]);
        return { fields, stages, why: '' };
      } catch (error) {
        return { fields: [], stages: null, why: (error as Error).message.slice(0, 300) };
      }
    },

    /** What a rule as it is written would read of the newest records. */
    async effect({ business, role }: Membership, rule: CrmRule): Promise<CrmEffectView> {
      const [rows, stages] = await Promise.all([readRecords(business.id), readStages(business.id)]);
      const wanted: [string, string][] = [
        ['lead token', rule.leadTokenField],
        ...followedValues.flatMap((name): [string, string][] => {
          const field = rule.fields[name];
          return field ? [[valueWords[name], field]] : [];
        }),
      ];
      const named = new Set([...rule.stages.inOrder, ...rule.stages.ended]);
      return {
        records: rows.length,
        found: wanted.map(([what, field]) => {
          const values = rows.flatMap(({ record }) => record.fields[field] || []);
          return {
            what,
            field,
            records: values.length,
            example: role.seesPeople ? (values[0] ?? '').slice(0, 80) : '',
          };
        }),
        joined: rows.filter(({ form }) => form !== '').length,
        strayStages: stages.filter(({ stage }) => !named.has(stage)),
      };
    },
  };
}

function crmSentence(
  live: CrmRule | null,
  accounts: { key: string; name: string; does: string }[],
  records: number,
  stagesSeen: { stage: string }[],
): Sentence {
  const crm = accounts.find(({ does }) => does === 'crm');
  if (!crm)
    return { title: 'No CRM is connected.', under: 'Connect it first; then say which of its fields hold what.' };
  if (!live)
    return {
      title: `Say what the fields of ${crm.name} hold.`,
      under:
        'Leads are read once that is live: the lead token joins a record to its form, the click ID is what platforms are told.',
    };
  const stray = stagesSeen.filter(({ stage }) => ![...live.stages.inOrder, ...live.stages.ended].includes(stage));
  const name = accounts.find(({ key }) => key === live.account)?.name ?? live.account;
  if (stray.length > 0)
    return {
      title: `${counted(stray.length, 'stage', 'stages')} of ${name} ${stray.length === 1 ? 'is' : 'are'} in no order: ${stray.map(({ stage }) => stage).join(', ')}.`,
      under: 'A deal at such a stage reaches no outcome. Add it below, at its place.',
    };
  return {
    title: `Leads are read from ${name}.`,
    under: records === 0 ? 'No record has come from it yet.' : 'What its fields held lately is beside the rule.',
  };
}
