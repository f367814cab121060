import { describe, expect, it } from 'vitest';
import { rules } from '../capture/rules.fixture';
import { firstPlan, tagRule, type Plan } from '../plan';
import { checkTags, linkPlan } from './check-tags';
import { partsOf, tagLink, type TagValue } from './link';
import { destinationProblems, readLink } from './read';

const listed = (...values: string[]) => values.map((value) => ({ value, label: '' }));
const agreed: Plan = {
  ...firstPlan(),
  tags: [
    tagRule('utm_source', 'Source', {
      entry: 'picked',
      values: [...listed('letter', 'quillsearch', 'tessaloop'), { value: 'baker', label: 'Baker Weekly' }],
    }),
    tagRule('utm_medium', 'Medium', {
      entry: 'picked',
      required: true,
      values: listed('email', 'partner', 'paid-search', 'posts'),
    }),
    tagRule('utm_campaign', 'Campaign', { named: true }),
    tagRule('utm_content', 'Content'),
  ],
  sources: [
    { source: 'letter', mediums: ['email'], fixed: [] },
    { source: 'quillsearch', mediums: ['paid-search', 'partner'], fixed: [] },
    { source: 'baker', mediums: ['partner'], fixed: ['utm_content=bw-04'] },
  ],
};
const campaigns = [{ value: 'uk-27q1-fleet-winterproof', label: 'Winterproof' }];
const plan = linkPlan({ plan: agreed, platforms: [], capture: rules }, campaigns);
const wrong = (source: string, medium: string, rest: Record<string, string> = {}, others: TagValue[] = []) =>
  checkTags(plan, Object.entries({ utm_source: source, utm_medium: medium, ...rest }), others).map(
    ({ tag, code, repaired }) => [tag, code, repaired],
  );

describe('a link whose campaign', () => {
  const campaign = (value: string) => wrong('letter', 'email', { utm_campaign: value });
  it('is in the register is on plan', () => expect(campaign('uk-27q1-fleet-winterproof')).toEqual([]));
  it.each([
    ['uk-27q1-fleet-winterprof', 'uk-27q1-fleet-winterproof'],
    ['UK-27Q1-Fleet-Winterproof', 'uk-27q1-fleet-winterproof'],
    ['Winterproof', 'uk-27q1-fleet-winterproof'],
    ['uk-27q1-shop-spring', null],
  ])('is %s is off plan, and offered %s', (value, nearest) =>
    expect(campaign(value)).toEqual([['utm_campaign', 'value', nearest]]),
  );
  it('is not in the register is said to be so', () =>
    expect(
      checkTags(plan, [
        ['utm_source', 'letter'],
        ['utm_medium', 'email'],
        ['utm_campaign', 'spring'],
      ])[0]!.words,
    ).toBe('Campaign `spring`: it is not in the campaign register.'));
  it('is any name is on plan as long as the register has none', () => {
    const unregistered = linkPlan({ plan: agreed, platforms: [], capture: rules }, []);
    expect(
      checkTags(unregistered, Object.entries({ utm_source: 'letter', utm_medium: 'email', utm_campaign: 'x' })),
    ).toEqual([]);
  });
});

describe('a link whose source', () => {
  it('goes with one medium is offered it in place of another', () =>
    expect(wrong('letter', 'paid-search')).toEqual([['utm_medium', 'medium', 'email']]));
  it('goes with one medium is offered it where there is none', () =>
    expect(wrong('letter', '')).toEqual([['utm_medium', 'missing', 'email']]));
  it('goes with several is offered none, and all are named', () => {
    const [problem] = checkTags(plan, Object.entries({ utm_source: 'quillsearch', utm_medium: 'email' }));
    expect(problem).toMatchObject({ code: 'medium', repaired: null });
    expect(problem!.words).toBe('quillsearch goes with `paid-search` or `partner`, not with `email`.');
  });
  it('has no rule goes with any', () => expect(wrong('tessaloop', 'email')).toEqual([]));
  it('prescribes a tag has it, and no other value of it', () => {
    expect(wrong('baker', 'partner', { utm_content: 'bw-04' })).toEqual([]);
    expect(wrong('baker', 'partner')).toEqual([['utm_content', 'fixed', 'bw-04']]);
    expect(wrong('baker', 'partner', { utm_content: 'TOP' })).toEqual([['utm_content', 'fixed', 'bw-04']]);
  });
});

describe('a placeholder', () => {
  it('of the link’s own platform is filled in', () =>
    expect(wrong('quillsearch', 'paid-search', { utm_content: '(advert)' }, [['visit', '(visit.key)']])).toEqual([]));
  it('of another platform is not, and the own one is offered', () =>
    expect(wrong('quillsearch', 'paid-search', { utm_content: 'x-~ad-name~' })).toEqual([
      ['utm_content', 'placeholder', 'x-(advert)'],
    ]));
  it('that the own platform has no match for is named without one', () =>
    expect(wrong('tessaloop', 'posts', {}, [['visit', '(visit.key)']])).toEqual([['visit', 'placeholder', null]]));
  it('in a link of no platform is filled in by nobody', () =>
    expect(wrong('letter', 'email', { utm_content: '~ad-name~' })).toEqual([['utm_content', 'placeholder', null]]));
});

describe('where a short link leads', () => {
  it('is named where it is off plan or has somebody’s address in it', () => {
    expect(destinationProblems('https://l.example/?utm_source=letter&utm_medium=fax', plan)).toEqual([
      'Medium `fax`: it is no planned medium.',
    ]);
    expect(destinationProblems('https://l.example/?reader=anna%40bakery.example', plan)).toEqual([
      'It has no UTM tags: its clicks will count by their referrer.',
      '`reader` contains personal data. Take it out of the link.',
    ]);
    expect(destinationProblems('https://l.example/?utm_source=letter&utm_medium=email', plan)).toEqual([]);
  });
});

describe('a tag that links are made with another name of', () => {
  const tagCarry = [
    { tag: 'utm_source', name: 'lark_src', written: true },
    { tag: 'utm_source', name: 'src', written: false },
  ];
  const carried = linkPlan({ plan: agreed, platforms: [], capture: { ...rules, tagCarry } }, []);
  const written = 'https://l.example/?lark_src=letter&utm_medium=email';
  it('is written under that name, in place of every other it has', () => {
    const tags: TagValue[] = [
      ['utm_source', 'letter'],
      ['utm_medium', 'email'],
    ];
    expect(tagLink(new URL('https://l.example/'), tags, carried.names)).toBe(written);
    expect(tagLink(new URL('https://l.example/?src=old&utm_source=older'), tags, carried.names)).toBe(written);
    expect(tagLink(new URL(written), [['utm_source', '']], carried.names)).toBe('https://l.example/?utm_medium=email');
  });
  it('is read under each of its names, its own first', () => {
    const read = (link: string) => partsOf(new URL(link), ['utm_source', 'utm_medium'], carried.names);
    expect(read(written)).toMatchObject({
      tags: [
        ['utm_source', 'letter'],
        ['utm_medium', 'email'],
      ],
      others: [],
    });
    expect(read('https://l.example/?x=1&src=letter').landing).toBe('https://l.example/?x=1');
  });
  it('is named where a link says an old name', () => {
    expect(readLink(written, carried)!.problems).toEqual([]);
    expect(readLink(written.replace('lark_src', 'utm_source'), carried)!.problems.map(({ words }) => words)).toEqual([
      'It says `utm_source`; links are made with `lark_src` now. Both are read.',
    ]);
  });
});
