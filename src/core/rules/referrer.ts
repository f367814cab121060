import type { ReferrerRule } from '../plan/schema';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { value, words } = partsOf<ReferrerRule>();

/** Which channel people belong to who come from a host without tags. */
export const referrer = defineRule<ReferrerRule>({
  station: 'Plan',
  at: inList(['plan', 'referrers'], ({ host }) => host),
  says: [
    'People who come from ',
    value('host', 'Host', 'a host', { isName: true }),
    ' without tags belong to ',
    words('channel', 'Channel', 'a channel', { offers: 'channels' }),
    '.',
  ],
});
