import type { ClickIdRule } from '../capture/schema';
import { isShipped, linksOf, platformName } from '../platforms/links';
import type { OwnPlatform } from '../platforms/schema';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';
import { isCarryName, isTag, taken } from './taken';

const { list, number, value, said, told } = partsOf<ClickIdRule>();

/** Under which name a platform's click ID comes, and how long it is kept. */
export const clickId = defineRule<ClickIdRule>({
  station: 'Capture',
  at: inList(['capture', 'keep', 'clickIds'], ({ platform }) => platform),
  calls: (platform, { platforms }) => `the click ID of ${platformName(platform, platforms)}`,
  says: [
    told(({ platform }, { platforms = [] }) => `The click ID of ${platformName(platform, platforms)}`),
    ' comes as ',
    value('parameter', 'Query name of the click ID', 'a query name', { tidy: (text) => text.trim() }),
    said(
      ({ alsoAs }) => alsoAs.length > 0,
      ', also as ',
      list('alsoAs', 'Other query names of it', 'nothing', { oneWord: true }),
    ),
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
  refs: ({ platform }) => (isShipped(platform) ? [] : [{ kind: 'platform', id: platform }]),
  check({ parameter, alsoAs, platform }, content) {
    const others = content.capture.keep.clickIds.filter((one) => one.platform !== platform);
    const names = [parameter, ...alsoAs];
    return names.flatMap((name, at) =>
      isTag(content, name) ||
      isCarryName(content.capture, name) ||
      names.indexOf(name) !== at ||
      others.some((one) => one.parameter === name || one.alsoAs.includes(name))
        ? [taken(name, at === 0 ? 'parameter' : 'alsoAs')]
        : [],
    );
  },
});

/** What a rule for a platform's click ID begins with, as far as the platform says it. @param own described by the business */
export function startClickId(
  kind: string,
  own: readonly OwnPlatform[],
): Pick<ClickIdRule, 'parameter' | 'alsoAs' | 'source' | 'medium'> {
  const described = own.find((platform) => platform.kind === kind);
  if (!described) {
    const parameter = linksOf([]).find((contract) => contract.kind === kind)?.clickParameter ?? '';
    return { parameter, alsoAs: [], source: kind, medium: '' };
  }
  const { clickParameters, source, medium, provesPayment } = described;
  return {
    parameter: clickParameters[0] ?? '',
    alsoAs: clickParameters.slice(1),
    source,
    medium: provesPayment ? medium : '',
  };
}
