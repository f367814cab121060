import type { TagCarry } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';
import { isClickIdName, isTag, taken } from './taken';

const { choice, value, told } = partsOf<TagCarry>();

/** Another name under which a tag of links travels. */
export const tagCarry = defineRule<TagCarry>({
  station: 'Plan',
  at: inList(['capture', 'tagCarry'], ({ name }) => name),
  calls: (name) => `the tag’s name ${quoteValue(name)}`,
  says: [
    told(({ tag }) => `${quoteValue(tag)} is also read as `),
    value('name', 'Other name', 'a name', { isName: true, tidy: (text) => text.trim() }),
    '; ',
    choice('written', 'How links are made', [
      [true, 'links are made with this name'],
      [false, 'links are made with its own name'],
    ]),
    '.',
  ],
  refs: ({ tag }) => [{ kind: 'tag', id: tag }],
  check({ tag, name, written }, content) {
    const { carry, tagCarry: others } = content.capture;
    if (isTag(content, name) || isClickIdName(content.capture, name) || carry.some((one) => one.name === name))
      return [taken(name)];
    const other = written && others.find((one) => one.tag === tag && one.written && one.name !== name);
    return other
      ? [
          {
            field: 'written',
            was: `links are made with ${quoteValue(other.name)} already`,
            fix: 'Let one name be the one that links are made with.',
          },
        ]
      : [];
  },
});
