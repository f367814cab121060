import { faceOf } from '../destinations/faces';
import type { WireRule } from '../events/schema';
import { isUsual, readingName } from '../events/words';
import { sampleName } from '../events/wires';
import { isShipped } from '../platforms/links';
import { quoteValue } from '../quote-value';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Option, type Within } from './says';

const { choice, list, told, value, inGrid, when } = partsOf<WireRule>();

/** The account with its kind, which goes along with it. */
const accountAndKind: Within<WireRule> = {
  key: 'account',
  read: ({ account, kind }) => `${account} ${kind}`,
  write: (rule, to: string) => {
    const [account = '', kind = ''] = to.split(' ');
    return { ...rule, account, kind };
  },
};

/** The name there as one text; readings in it stand between guillemets: `fleet/ask/‹bike›`. */
const nameThere: Within<WireRule> = {
  key: 'named',
  read: ({ named }) => named.map(({ text, reading }) => (reading ? `‹${reading}›` : text)).join(''),
  write: (rule, to: string) => ({
    ...rule,
    named: to
      .split(/(‹[a-z0-9_]+›)/)
      .filter(Boolean)
      .map((piece) => {
        const [, reading = ''] = /^‹([a-z0-9_]+)›$/.exec(piece) ?? [];
        return { text: reading ? '' : piece, reading };
      }),
  }),
};

const fieldsThere: Within<WireRule> = {
  key: 'fields',
  read: ({ fields }) => fields.map(({ name, reading }) => `${name}=${reading}`),
  write: (rule, to: string[]) => ({
    ...rule,
    fields: to.map((one) => {
      const [name = '', reading = ''] = one.split('=').map((part) => part.trim());
      return { name, reading };
    }),
  }),
};

/** That an event is told to a destination, under which name and with which fields. */
export const wire = defineRule<WireRule>({
  station: 'Events',
  at: inList(['events', 'wires'], ({ event, account }) => `${event} ${account}`),
  start: () => ({
    event: '',
    account: '',
    kind: '',
    named: [],
    fields: [],
    by: 'server',
    purpose: 'measurement',
    how: 'told',
    from: '',
  }),
  says: [
    inGrid(value('event', 'Event', 'an event', { isName: true, wide: true })),
    inGrid(
      choice(accountAndKind, 'Told to', ({ accounts = [] }) =>
        accounts.filter(({ does }) => does !== 'crm').map(({ key, kind, name }) => [`${key} ${kind}`, name]),
      ),
    ),
    inGrid(value(nameThere, 'Name there', 'a name', { wide: true })),
    inGrid(list(fieldsThere, 'Fields', 'nothing', { heading: 'Fields', wide: true })),
    told(
      ({ event, account, kind, named }, { accounts = [], events, platforms = [] }) =>
        `Tell ${accounts.find(({ key }) => key === account)?.name ?? faceOf(kind, platforms)?.words ?? account} of ${quoteValue(event)} as ${quoteValue(
          named.map(({ text, reading }) => (reading ? `‹${readingName(reading, events?.readings)}›` : text)).join(''),
        )}, from `,
    ),
    choice('by', 'Who tells it', ({ platforms = [] }, rule): Option<WireRule['by']>[] =>
      rule && !faceOf(rule.kind, platforms)?.page && rule.by === 'server'
        ? [['server', 'the server']]
        : [
            ['server', 'the server'],
            ['page', 'the page'],
            ['both', 'the page and the server'],
          ],
    ),
    ', for ',
    choice('purpose', 'What for', [
      ['measurement', 'measurement'],
      ['advertising', 'advertising'],
    ]),
    '. For now each is ',
    choice('how', 'How it is told', [
      ['told', 'told', 'told'],
      ['worked out', 'only worked out, and nobody is told', 'only worked out'],
    ]),
    when(
      ({ from }) => from !== '',
      ' from ',
      value('from', 'From when on it is told', 'the start', { tidy: (text) => text.trim() }),
      ' on, and only worked out of what happened before',
    ),
    '.',
  ],
  refs: ({ event, kind, named, fields }) => [
    { kind: 'event', id: event },
    ...(isShipped(kind) || faceOf(kind, []) ? [] : [{ kind: 'platform', id: kind }]),
    ...[...new Set([...named.map(({ reading }) => reading), ...fields.map(({ reading }) => reading)])]
      .filter((id) => id !== '' && !isUsual(id))
      .map((id) => ({ kind: 'reading', id })),
  ],
  detailsOfNew: true,
  details: (before, after) =>
    JSON.stringify(before.fields) === JSON.stringify(after.fields)
      ? []
      : [
          `It says ${after.fields.map(({ name, reading }) => `${quoteValue(name)} by ${quoteValue(reading)}`).join(', ') || 'nothing beside its name'}.`,
        ],
  check(rule, content) {
    const face = faceOf(rule.kind, content.platforms);
    if (!face)
      return [
        {
          field: 'account',
          was: `nobody knows how ${quoteValue(rule.kind)} is told events`,
          fix: 'Choose another destination.',
        },
      ];
    const found: RuleProblem[] = [];
    const problem = face.named.problem(sampleName(rule, face));
    if (problem)
      found.push({
        field: 'named',
        was: `the name ${problem}`,
        fix: `Write it such as ${quoteValue(face.named.example)}.`,
      });
    if (rule.by !== 'server' && !face.page)
      found.push({ field: 'by', was: `pages cannot tell ${face.words}`, fix: 'Let the server tell it.' });
    if (rule.from !== '' && rule.by !== 'server')
      found.push({
        field: 'by',
        was: 'pages cannot begin to tell it at a stated time',
        fix: 'Let the server tell it, or take the time out.',
      });
    const name = sampleName(rule, face);
    const bidding = content.telling.find((one) => one.account === rule.account && (one.as || one.outcome) === name);
    if (bidding && rule.how === 'told')
      found.push({
        field: 'named',
        weighs: 'warns',
        was: `${face.words} is told ${quoteValue(name)} by a rule of Report-backs too, and would count both`,
        fix: 'Use another name, or take one of the two out.',
      });
    if (!face.named.cleaning && rule.named.some(({ reading }) => reading))
      found.push({ field: 'named', was: 'its names hold no readings', fix: `Use ${face.named.words}.` });
    const names = rule.fields.map(({ name }) => name);
    for (const name of names) {
      const wrong = face.fieldProblem(name);
      if (wrong) found.push({ field: 'fields', was: `the field ${quoteValue(name)} ${wrong}`, fix: 'Rename it.' });
    }
    const isHash = (id: string) => content.events.readings.some((one) => one.id === id && one.as === 'mail_hash');
    for (const { name, reading } of rule.fields) {
      const takes = face.fields.some((field) => field.name === name && field.isHash);
      if (takes === isHash(reading)) continue;
      found.push(
        takes
          ? {
              field: 'fields',
              was: `${quoteValue(name)} takes an email address only hashed, and ${quoteValue(reading)} is not`,
              fix: 'Choose a reading that is read as a hashed email address.',
            }
          : {
              field: 'fields',
              was: `the field ${quoteValue(name)} of ${face.words} takes no hashed email address`,
              fix: 'Take it out, or choose another reading.',
            },
      );
    }
    if (rule.named.some(({ reading }) => isHash(reading)))
      found.push({ field: 'named', was: 'a name holds no email address', fix: 'Use another reading.' });
    const twice = names.find((name, at) => names.indexOf(name) !== at);
    if (twice !== undefined)
      found.push({ field: 'fields', was: `the field ${quoteValue(twice)} is there twice`, fix: 'Keep it once.' });
    return found;
  },
});
