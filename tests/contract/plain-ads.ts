import { ownContract } from '../../src/core/platforms/own';
import { ownPlatformSchema } from '../../src/core/platforms/schema';
import { ruleKinds } from '../../src/core/rules';

const start = ruleKinds.platform.start!({}, []);

/** The plain ad network as a business describes it by hand: held to what the kinds that ship are held to. */
export const plainAds = ownContract(
  ownPlatformSchema.parse({
    ...start,
    kind: 'plain-ads',
    words: 'Plain Ads',
    clickParameters: ['pcid'],
    placeholders: [{ text: '<click>', words: 'click ID', example: 'p1f0a22c9', isClickId: true }],
    repeats: 'key',
    limits: { ...start.limits, changeWithinDays: 30 },
    telling: {
      ...start.telling,
      path: '/v1/conversions',
      testPath: '/v1/tests',
      token: { header: 'x-plain-key', before: '' },
      many: true,
      rowsAt: '/conversions',
      fields: [
        { ...start.telling.fields[0]!, at: '/click/id' },
        ...start.telling.fields.slice(1),
        { at: '/change', reading: 'change', text: '' },
      ],
      answer: { rowsAt: '/results', idAt: '/id', saysAt: '/result', taken: ['ok'], toldBefore: ['duplicate'] },
    },
  }),
);
