import type { CarryRule } from '../capture/schema';
import { platformName } from '../links/placeholders';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';
import { isClickIdName, isTag, taken } from './taken';

const { value, told } = partsOf<CarryRule>();

/** A name under which a platform's click ID travels a second time. */
export const carry = defineRule<CarryRule>({
  station: 'Capture',
  at: inList(['capture', 'carry'], ({ name }) => name),
  says: [
    told(({ platform }) => `The click ID of ${platformName(platform)}`),
    ' also travels as ',
    value('name', 'Carry name', 'a name', { isName: true, tidy: (text) => text.trim() }),
    '.',
  ],
  refs: ({ platform }) => [{ kind: 'click_id', id: platform }],
  check: ({ name }, content) => (isTag(content, name) || isClickIdName(content.capture, name) ? [taken(name)] : []),
});
