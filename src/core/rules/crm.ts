import type { CrmRule } from '../leads/schema';
import { followedValues, valueWords, type FollowedValue } from '../leads/values';
import { defineRule, type RuleProblem } from './define';
import { inOptional } from './place';
import { partsOf, type Option, type Piece, type Within } from './says';

const { choice, value, told, said } = partsOf<CrmRule>();
const tidy = (text: string) => text.trim();

/** The field of the CRM that holds a followed value; one that holds none has no entry. */
const fieldOf = (name: FollowedValue): Within<CrmRule> => ({
  key: name,
  read: ({ fields }) => fields[name] ?? '',
  write(rule, field: string) {
    const others = Object.fromEntries(Object.entries(rule.fields).filter(([key]) => key !== name));
    return { ...rule, fields: field === '' ? others : { ...others, [name]: field } };
  },
});

const fieldPart = (name: FollowedValue) =>
  value(fieldOf(name), `Field of the ${valueWords[name]}`, 'nowhere', { offers: 'crmFields', tidy });

/** Which CRM leads are read from, what its fields hold, and its stages. */
export const crm = defineRule<CrmRule>({
  station: 'Leads',
  at: inOptional(['crm']),
  calls: () => 'the CRM',
  says: [
    'Leads are read from ',
    choice(
      'account',
      'CRM',
      ({ accounts = [] }): Option[] =>
        accounts.filter(({ does }) => does === 'crm').map(({ key, name }): Option => [key, name]),
      { words: (key) => key },
    ),
    '. The lead token is in ',
    value('leadTokenField', 'Field of the lead token', 'a field', { offers: 'crmFields', tidy }),
    ', the click ID in ',
    fieldPart('click_id'),
    ...followedValues
      .filter((name) => name !== 'click_id')
      .map((name): Piece<CrmRule> =>
        said(({ fields }) => Boolean(fields[name]), `, the ${valueWords[name]} in `, fieldPart(name)),
      ),
    '. Its stages are ',
    told(({ stages }) => stages.inOrder.join(', then ') || 'not known yet'),
    told(({ stages }) =>
      stages.ended.length === 0 ? '' : `; a deal ends without an order at ${stages.ended.join(', ')}`,
    ),
    '.',
  ],
  start: ({ accounts = [] }) => ({
    account: accounts.find(({ does }) => does === 'crm')?.key ?? '',
    stages: { inOrder: [], ended: [] },
    leadTokenField: 'avx_lead',
    fields: { click_id: 'click_id' },
  }),
  check({ stages }, { outcomes }) {
    const named = [...stages.inOrder, ...stages.ended];
    const twice = named.find((stage, at) => named.indexOf(stage) !== at);
    const missing = outcomes.flatMap(({ code, reachedBy }): RuleProblem[] =>
      reachedBy.kind === 'stage' && !stages.inOrder.includes(reachedBy.stage)
        ? [
            {
              field: 'stages',
              weighs: 'warns',
              was: `${code} is reached at “${reachedBy.stage}”, which is no stage in this order`,
              fix: `Add that stage, or choose another one for ${code}.`,
            },
          ]
        : [],
    );
    if (twice === undefined) return missing;
    return [{ field: 'stages', was: `the stage “${twice}” is there twice`, fix: 'Keep it once.' }, ...missing];
  },
});
