import type { QualifiedRule } from '../outcomes/schema';
import type { WayInKind } from '../strands/types';
import { waysIn } from '../ways-in';
import { defineRule } from './define';
import { partsOf, type Option } from './says';

const { choice, told } = partsOf<QualifiedRule>();

/** Ways in, for each of which it is said what its Qualified is; one without that is not used. */
export const qualifyingWays = Object.keys(waysIn) as WayInKind[];

/** Which outcome is the *Qualified* of a way in. */
export const qualified = defineRule<QualifiedRule>({
  station: 'Report-backs',
  at: {
    isOne: false,
    idOf: ({ way }) => way,
    read: ({ qualified: all }) =>
      (Object.keys(all) as WayInKind[]).flatMap((way): [string, QualifiedRule][] => {
        const outcome = all[way];
        return outcome === undefined ? [] : [[way, { way, outcome }]];
      }),
    write(content, id, rule) {
      const { [id as WayInKind]: before, ...others } = content.qualified;
      // One that is there keeps its place.
      if (rule && before !== undefined)
        return { ...content, qualified: { ...content.qualified, [rule.way]: rule.outcome } };
      return { ...content, qualified: rule ? { ...others, [rule.way]: rule.outcome } : others };
    },
  },
  calls: (way) => `what qualified means for ${waysIn[way as WayInKind]?.words.toLowerCase() ?? way}`,
  says: [
    told(({ way }) => `${waysIn[way].words} are qualified when they reach `),
    choice(
      'outcome',
      'Qualified',
      ({ outcomes = [] }): Option[] => outcomes.map(({ code, words }): Option => [code, `${code}, ${words}`]),
      { words: (code) => code },
    ),
    '.',
  ],
  refs: ({ outcome }) => [{ kind: 'outcome', id: outcome }],
});
