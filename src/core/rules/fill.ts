import type { FillRule } from '../capture/schema';
import { readingWords } from '../capture/readings';
import { platformName } from '../platforms/links';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf, type Option } from './says';
import { swapPiece } from './swap-part';

const { choice, value, list, when, said } = partsOf<FillRule>();

/** Which hidden field of which form gets which value. */
export const fill = defineRule<FillRule>({
  station: 'Capture',
  at: inList(['capture', 'fill'], ({ id }) => id),
  says: [
    choice(
      'find',
      'How the field is found',
      [
        ['name', 'The field', 'its name'],
        ['id', 'The field with the ID', 'its ID'],
        ['label', 'The field labelled', 'its label'],
        ['selector', 'The field at', 'a selector'],
      ],
      { heading: 'Found by' },
    ),
    ' ',
    value('field', 'Field', 'field', { offers: 'fields' }),
    ' of ',
    list('forms', 'Forms', 'every form', { wide: true, offers: 'forms' }),
    said(
      ({ pages }) => pages.length > 0,
      ' on pages that begin with ',
      list('pages', 'Pages that begin with', 'anything', { wide: true }),
    ),
    ' gets ',
    choice('reading', 'Reading', Object.entries(readingWords), {
      heading: 'Gets',
      wide: true,
      also: () => ({ platform: '' }),
    }),
    when(
      ({ reading, platform }, { capture }) =>
        reading === 'kept_value' ||
        (reading === 'click_id' && (!capture || platform !== '' || capture.keep.clickIds.length > 1)),
      said(
        ({ reading, platform }) => reading === 'kept_value' || platform !== '',
        ' ',
        choice(
          'platform',
          'Whose, or which',
          ({ capture, platforms = [] }, rule): readonly Option[] => {
            const kept = (capture?.keep.values ?? []).map(({ name }): Option => [name, name]);
            const clicks = (capture?.keep.clickIds ?? []).map(({ platform }): Option => [
              platform,
              `of ${platformName(platform, platforms)}`,
              platformName(platform, platforms),
            ]);
            if (!rule) return [['', '–'], ...clicks, ...kept];
            return rule.reading === 'kept_value'
              ? [['', 'which?'], ...kept]
              : [['', 'the newest of any platform'], ...clicks];
          },
          { heading: 'Of' },
        ),
      ),
    ),
    swapPiece('as it is'),
    said(
      (rule) => rule.when === 'empty',
      ', ',
      choice('when', 'When', [
        ['always', 'whatever is in it', 'always'],
        ['empty', 'only when it is empty', 'only when empty'],
      ]),
    ),
    said(
      ({ otherwise }) => otherwise !== '',
      '; where there is none, ',
      value('otherwise', 'Otherwise', 'it stays empty'),
    ),
    '.',
  ],
  start: (_beside, names) => ({
    id: newRuleId(names),
    find: 'name',
    field: '',
    forms: [],
    pages: [],
    reading: 'last_source',
    platform: '',
    swap: '',
    when: 'always',
    otherwise: '',
  }),
  refs: ({ swap, reading, platform }) => [
    ...(swap ? [{ kind: 'swap', id: swap }] : []),
    ...(reading === 'kept_value' ? [{ kind: 'kept_value', id: platform }] : []),
    ...(reading === 'click_id' && platform ? [{ kind: 'click_id', id: platform }] : []),
  ],
});

/** A name for a new rule that no other has; it stays when the rule's field is changed. */
function newRuleId(names: string[]): string {
  for (let n = names.length + 1; ; n++) if (!names.includes(`rule ${n}`)) return `rule ${n}`;
}
