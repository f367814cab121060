import { checkChannel } from '../plan/check-rule';
import type { ChannelRule } from '../plan/schema';
import { listed } from '../listed';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, value, words, told } = partsOf<ChannelRule>();

/** Which channel a medium belongs to, in results and in the CRM. */
export const channel = defineRule<ChannelRule>({
  station: 'Plan',
  at: inList(['plan', 'channels'], ({ medium }) => medium),
  says: [
    value('medium', 'Medium', 'a medium', { isName: true }),
    ' is ',
    words('channel', 'Channel', 'a channel', { offers: 'channels' }),
    ' in results',
    told(({ crmTypes }) =>
      crmTypes.length > 0 ? `, in the CRM ${listed(crmTypes, 'or')}` : ', and nothing in the CRM',
    ),
    '; ',
    choice('media', 'Media type', [
      ['paid', 'paid'],
      ['owned', 'owned'],
      ['earned', 'earned'],
    ]),
    ' media, ',
    choice('tracked', 'Tracked', [
      [true, 'tracked'],
      [false, 'not tracked'],
    ]),
    '. Shown as: ',
    told(({ channel: name }) => name),
    ' ',
    choice('joins', 'Joined by', [
      ['on', 'on'],
      ['in', 'in'],
      ['through', 'through'],
    ]),
    ' its source.',
  ],
  check: (rule, { plan }) => checkChannel(rule, plan),
});
