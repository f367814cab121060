import { destinationOf } from '../destinations';
import type { WireRule } from '../events/schema';
import { isUsual, readingName } from '../events/words';
import { sampleName } from '../events/wires';
import { quoteValue } from '../quote-value';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, told } = partsOf<WireRule>();

/** That an event is told to a destination, under which name and with which fields. */
export const wire = defineRule<WireRule>({
  station: 'Events',
  at: inList(['events', 'wires'], ({ event, account }) => `${event} ${account}`),
  says: [
    told(
      ({ event, account, kind, named }, { accounts = [], events }) =>
        `Tell ${accounts.find(({ key }) => key === account)?.name ?? destinationOf(kind)?.words ?? account} of ${quoteValue(event)} as ${quoteValue(
          named.map(({ text, reading }) => (reading ? `‹${readingName(reading, events?.readings)}›` : text)).join(''),
        )}, from the server, for `,
    ),
    choice('purpose', 'What for', [
      ['measurement', 'measurement'],
      ['advertising', 'advertising'],
    ]),
    '.',
  ],
  refs: ({ event, named, fields }) => [
    { kind: 'event', id: event },
    ...[...new Set([...named.map(({ reading }) => reading), ...fields.map(({ reading }) => reading)])]
      .filter((id) => id !== '' && !isUsual(id))
      .map((id) => ({ kind: 'reading', id })),
  ],
  details: (before, after) =>
    JSON.stringify(before.fields) === JSON.stringify(after.fields)
      ? []
      : [
          `It says ${after.fields.map(({ name, reading }) => `${quoteValue(name)} by ${quoteValue(reading)}`).join(', ') || 'nothing beside its name'}.`,
        ],
  check(rule) {
    const contract = destinationOf(rule.kind);
    if (!contract)
      return [
        {
          field: 'account',
          was: `nobody knows how ${quoteValue(rule.kind)} is told events`,
          fix: 'Choose another destination.',
        },
      ];
    const found: RuleProblem[] = [];
    const problem = contract.named.problem(sampleName(rule, contract));
    if (problem)
      found.push({
        field: 'named',
        was: `the name ${problem}`,
        fix: `Write it such as ${quoteValue(contract.named.example)}.`,
      });
    const names = rule.fields.map(({ name }) => name);
    for (const name of names) {
      const wrong = contract.fieldProblem(name);
      if (wrong) found.push({ field: 'fields', was: `the field ${quoteValue(name)} ${wrong}`, fix: 'Rename it.' });
    }
    const twice = names.find((name, at) => names.indexOf(name) !== at);
    if (twice !== undefined)
      found.push({ field: 'fields', was: `the field ${quoteValue(twice)} is there twice`, fix: 'Keep it once.' });
    return found;
  },
});
