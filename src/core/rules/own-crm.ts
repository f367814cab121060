import type { OwnCrm } from '../crms/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { newName } from './platform';
import { partsOf } from './says';
import { sameRule } from './same';

const { value, words, told } = partsOf<OwnCrm>();

/** Kinds of CRM that ship, by name; the rule needs no more of them. */
const shipped = ['oakledger'];

/** Parts of a record that are read, each with its words and where it is. */
const partsRead = ({ reads }: OwnCrm): [words: string, at: string][] =>
  [
    ['number', reads.number] as [string, string],
    ['stage', reads.stage] as [string, string],
    ...reads.fields.map(({ name, at }): [string, string] => [name, at]),
  ].filter(([, at]) => at !== '');

/** A CRM that the business describes itself. */
export const ownCrm = defineRule<OwnCrm>({
  station: 'Connections',
  at: inList(['crms'], ({ kind }) => kind),
  calls: (kind, { crms }) => `the CRM ${crms.find((one) => one.kind === kind)?.words ?? quoteValue(kind)}`,
  says: [
    'Records of ',
    words('words', 'What people call it', 'a name'),
    ', in short ',
    value('kind', 'Its short name', 'a short name', { isName: true, tidy: (text) => text.trim().toLowerCase() }),
    ', ',
    told(({ webhook, list, columns }) => {
      const ways = [
        ...(webhook ? ['are sent to Avrix as they change'] : []),
        ...(list ? [`are listed at ${quoteValue(list.path || '/')}`] : []),
        ...(columns ? ['come in files'] : []),
      ];
      return ways.length === 0 ? 'do not arrive in any way yet' : listed(ways);
    }),
    told((rule) => {
      const read = partsRead(rule);
      return read.length === 0 ? '' : `; read are ${listed(read.map(([name, at]) => `${name} at ${quoteValue(at)}`))}`;
    }),
    '.',
  ],
  start: (_beside, names) => ({
    kind: newName('crm', names),
    words: '',
    token: { header: 'authorization', before: 'Bearer ' },
    webhook: { proof: 'secret', header: 'x-avrix-secret', recordsAt: '' },
    list: null,
    reads: nothingRead,
    columns: null,
    writes: null,
  }),
  details(before, after) {
    const changed: string[] = [];
    if (!sameRule(before.reads, after.reads)) changed.push('Other parts of its records are read.');
    if (!sameRule(before.columns, after.columns)) changed.push('Other columns of its files are read.');
    if (!sameRule(before.writes, after.writes))
      changed.push(after.writes ? `Values are written back by ${after.writes.method}.` : 'Nothing is written back.');
    if (!sameRule([before.webhook, before.list, before.token], [after.webhook, after.list, after.token]))
      changed.push('How its records arrive is otherwise.');
    return changed;
  },
  check({ kind, webhook, list, columns, reads }) {
    const found: RuleProblem[] = [];
    if (shipped.includes(kind))
      found.push({
        field: 'kind',
        was: `${quoteValue(kind)} is a CRM that Avrix knows`,
        fix: 'Use another short name.',
      });
    if (!webhook && !list && !columns)
      found.push({ field: 'arrives', was: 'its records arrive in no way', fix: 'Choose at least one way.' });
    const names = [...reads.fields, ...reads.amounts].map(({ name }) => name);
    const twice = names.find((name, at) => names.indexOf(name) !== at);
    if (twice !== undefined)
      found.push({ field: 'reads', was: `${quoteValue(twice)} is read twice`, fix: 'Give one of them another name.' });
    if (reads.stage === '')
      found.push({
        field: 'reads.stage',
        weighs: 'warns',
        was: 'no stage is read, so no outcome can be reached by one',
        fix: 'Click on the stage in the example.',
      });
    return found;
  },
});

/** What is read of a record before anybody said it. */
export const nothingRead: OwnCrm['reads'] = {
  number: '',
  person: '',
  personName: '',
  mail: '',
  telephone: '',
  company: '',
  stage: '',
  madeAt: '',
  changedAt: '',
  currency: '',
  otherwiseCurrency: 'GBP',
  amounts: [],
  fields: [],
};
