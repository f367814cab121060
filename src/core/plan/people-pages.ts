import { usedInWords, type UsedIn } from '../links/uses';
import { ruleSentence, type RuleKindName } from '../rules';
import type { Campaign } from './campaign';
import { partWants } from './names';
import type { Plan, TagRule } from './schema';
import { fixedTags, sourceRule } from './sources';
import { stageWords } from './stages';

/** A page of a workbook: a heading row, then the rest. */
export interface PeoplePage {
  name: string;
  rows: string[][];
}

/** A link as an example of the plan. */
export interface ExampleLink {
  url: string;
  usedIn: UsedIn;
  place: string;
  owner: string;
}

/** A rule's sentence as people read it where nothing is set in a face of its own. */
const plainSentence = (kind: RuleKindName, rule: unknown): string => ruleSentence(kind, rule)!.replaceAll('`', '');

/** What else is known of a value of a tag, in columns of the tag's own. */
function columnsOf(plan: Plan, tag: string): { heads: string[]; cells: (value: string) => string[] } {
  if (tag === 'utm_source')
    return {
      heads: ['Goes with', 'Links always have'],
      cells: (value) => {
        const rule = sourceRule(plan, value);
        const fixed = rule ? fixedTags(rule).map((pair) => pair.join(' = ')) : [];
        return [rule?.mediums.join(', ') || 'any medium', fixed.join(', ')];
      },
    };
  if (tag === 'utm_medium')
    return {
      heads: ['Channel in results', 'Campaign type in the CRM', 'Media', 'Tracked'],
      cells: (value) => {
        const rule = plan.channels.find(({ medium }) => medium === value);
        return rule
          ? [rule.channel, rule.crmTypes.join(', '), rule.media, rule.tracked ? 'yes' : 'no']
          : ['', '', '', ''];
      },
    };
  return { heads: [], cells: () => [] };
}

function tagPage(plan: Plan, rule: TagRule, counts: Map<string, number>, weeks: number): PeoplePage {
  const { heads, cells } = columnsOf(plan, rule.tag);
  const rows = rule.values.map(({ value, label }) => [
    ...[value, label, ...cells(value)],
    String(counts.get(value) ?? 0),
  ]);
  return {
    name: rule.name,
    rows: [
      ['Value in links', 'Shown as', ...heads, `Arrived in ${weeks} weeks`],
      ...rows,
      ...(rows.length === 0 ? [[plainSentence('tag', rule)]] : []),
    ],
  };
}

const namingPage = ({ naming }: Plan): PeoplePage => ({
  name: 'Campaign names',
  rows: [
    ['Part', 'What it must be', 'Values'],
    ...naming.parts.map((part) => [
      part.label,
      partWants(part)
        .replace(/^It must be /, '')
        .replace(/\.$/, ''),
      part.values.map(({ value, label }) => (label && label !== value ? `${value} (${label})` : value)).join(', '),
    ]),
    ['Put together as', naming.pattern || 'not put together from parts', ''],
  ],
});

const campaignsPage = (campaigns: Campaign[]): PeoplePage => ({
  name: 'Campaigns',
  rows: [
    ['Campaign', 'Tracking name', 'Its job', 'From', 'To', 'Budget', 'Owner', 'Type in the CRM', 'Note'],
    ...campaigns.map((one) => [
      ...[one.friendly, one.name, stageWords[one.stage], one.startsOn, one.endsOn],
      ...[one.budget && `${one.budget} ${one.currency}`, one.owner, one.crmType, one.note],
    ]),
  ],
});

/**
 * The plan as a workbook for people: how a campaign is made and what each rule says, a page for each tag, campaign names,
 * campaigns, and links as examples. Its machine-readable form is another file.
 *
 * @param counts how often each value arrived in the weeks looked at, by tag
 */
export function peoplePages(
  plan: Plan,
  campaigns: Campaign[],
  examples: ExampleLink[],
  { counts, weeks }: { counts: Map<string, Map<string, number>>; weeks: number },
): PeoplePage[] {
  const sentences = [
    ...plan.tags.map((rule) => ['Tag', rule.name, plainSentence('tag', rule), rule.note]),
    ...plan.channels.map((rule) => ['Channel', rule.channel, plainSentence('channel', rule), '']),
    ...plan.sources.map((rule) => ['Source', rule.source, plainSentence('source', rule), '']),
  ];
  return [
    {
      name: 'How to',
      rows: [['Step', 'What is done'], ...plan.making.steps.map((step, at) => [String(at + 1), step])],
    },
    { name: 'The plan', rows: [['What', 'Which', 'Rule', 'Note'], ...sentences] },
    ...plan.tags.map((rule) => tagPage(plan, rule, counts.get(rule.tag) ?? new Map<string, number>(), weeks)),
    namingPage(plan),
    campaignsPage(campaigns),
    {
      name: 'Examples',
      rows: [
        ['Link', 'Used in', 'Where exactly', 'Owner'],
        ...examples.map(({ url, usedIn, place, owner }) => [url, usedInWords[usedIn], place, owner]),
      ],
    },
  ];
}
