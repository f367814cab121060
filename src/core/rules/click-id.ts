import type { ClickIdRule } from '../capture/schema';
import { platformName } from '../links/placeholders';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';
import { isCarryName, isTag, taken } from './taken';

const { number, value, said, told } = partsOf<ClickIdRule>();

/** Under which name a platform's click ID comes, and how long it is kept. */
export const clickId = defineRule<ClickIdRule>({
  station: 'Capture',
  at: inList(['capture', 'keep', 'clickIds'], ({ platform }) => platform),
  calls: (platform) => `the click ID of ${platformName(platform)}`,
  says: [
    told(({ platform }) => `The click ID of ${platformName(platform)}`),
    ' comes as ',
    value('parameter', 'Query name of the click ID', 'a query name', { tidy: (text) => text.trim() }),
    ' and is kept ',
    number('days', 'Days a click ID is kept', { unit: ['day', 'days'] }),
    ' from its click',
    said(
      ({ source, medium }) => source !== '' || medium !== '',
      '; without UTM tags it counts as source ',
      value('source', 'Source it says', 'none'),
      ' and medium ',
      value('medium', 'Medium it says', 'none'),
    ),
    '.',
  ],
  check: ({ parameter, platform }, content) =>
    isTag(content, parameter) ||
    isCarryName(content.capture, parameter) ||
    content.capture.keep.clickIds.some((one) => one.parameter === parameter && one.platform !== platform)
      ? [taken(parameter, 'parameter')]
      : [],
});
