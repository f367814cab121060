import type { CallCodeRule } from '../capture/schema';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { value } = partsOf<CallCodeRule>();

/** Where pages show the reference code by which a call finds its visit. */
export const callCode = defineRule<CallCodeRule>({
  station: 'Leads',
  at: inList(['capture', 'callCodes'], ({ element }) => element),
  says: [
    'Show the reference code in ',
    value('element', 'Element', 'an element', { isName: true, offers: 'elements' }),
    ' on pages that begin with ',
    value('pages', 'Pages', 'a path', { offers: 'paths' }),
    '.',
  ],
  start: () => ({ element: '', pages: '/' }),
});
