const value = (value: string, label = '') => ({ value, label });

const tag = (name: string, words: string, rest: object) => ({
  tag: name,
  name: words,
  values: [],
  pattern: '',
  named: false,
  letters: 'lower',
  separator: '-',
  longest: 60,
  entry: 'typed',
  required: false,
  example: '',
  note: '',
  ...rest,
});

const part = (key: string, label: string, kind: string, values: [string, string][] = [], digits = 1) => ({
  key,
  label,
  kind,
  digits,
  values: values.map(([one, words]) => value(one, words)),
});

const channel = (medium: string, name: string, crmTypes: string[], media: string, joins = 'on', tracked = true) => ({
  medium,
  channel: name,
  crmTypes,
  media,
  tracked,
  joins,
});

const goesWith = (source: string, ...mediums: string[]) => ({ source, mediums, fixed: [] });

/**
 * The names Larkmoor agreed on.
 * @param faults false where links, results and CRM agree
 */
export function larkmoorPlan(faults: boolean) {
  return {
    tags: [
      tag('utm_source', 'Source', {
        entry: 'picked',
        required: true,
        example: 'larkmoor-letter',
        values: [
          value('quillsearch', 'Quillsearch'),
          value('tessaloop', 'Tessaloop'),
          value('larkmoor-letter', 'the Larkmoor letter'),
          value('baker-weekly', 'Baker Weekly'),
          value('wrenwick', 'Wrenwick'),
          value('cargo-fair', 'the Penmarrow cargo fair'),
          value('printed', 'print'),
          value('display', 'banners'),
        ],
      }),
      tag('utm_medium', 'Medium', {
        entry: 'picked',
        required: true,
        longest: 30,
        example: 'email',
        values: [
          value('paid-search', 'Paid search'),
          value('paid-social', 'Paid social'),
          value('organic-social', 'Organic social'),
          value('email', 'E-mail'),
          value('partner', 'Partner'),
          value('display', 'Display'),
          value('fair', 'Trade fair'),
          value('print', 'Print'),
        ],
      }),
      tag('utm_campaign', 'Campaign', {
        named: true,
        required: true,
        example: 'uk-27q1-fleet-winterproof',
        note: 'Put together from market, quarter, line and initiative; the ad platforms carry the same name.',
      }),
      tag('utm_content', 'Content', { example: 'hill-video', note: 'Which ad, or which link in a letter.' }),
      tag('utm_term', 'Term', { separator: '', longest: 100, note: 'Filled in by the search platform.' }),
      tag('utm_id', 'Campaign ID', { letters: 'any', separator: '', longest: 40 }),
      tag('market', 'Market', {
        entry: 'picked',
        longest: 2,
        example: 'uk',
        values: [value('uk', 'United Kingdom'), value('ie', 'Ireland'), value('nl', 'Netherlands')],
      }),
    ],
    naming: {
      pattern: '{market}-{yy}q{n}-{line}-{initiative}',
      parts: [
        part('market', 'Market', 'listed', [
          ['uk', 'United Kingdom'],
          ['ie', 'Ireland'],
          ['nl', 'Netherlands'],
        ]),
        part('yy', 'Year', 'digits', [], 2),
        part('n', 'Quarter', 'listed', [
          ['1', 'January to March'],
          ['2', 'April to June'],
          ['3', 'July to September'],
          ['4', 'October to December'],
        ]),
        part('line', 'Line', 'listed', [
          ['fleet', 'Fleet'],
          ['shop', 'Shop'],
          ['care', 'Care plan'],
          ['brand', 'the brand'],
        ]),
        part('initiative', 'Initiative', 'words'),
      ],
    },
    channels: [
      channel('paid-search', 'Paid search', ['Search ads'], 'paid'),
      channel('paid-social', 'Paid social', ['Social ads'], 'paid'),
      channel('organic-social', 'Organic social', ['Social posts'], 'owned'),
      channel('email', 'E-mail', ['Letter', 'Mail series'], 'owned', 'in'),
      channel('partner', 'Partners', ['Partner'], 'paid', 'through'),
      channel('display', 'Display', faults ? [] : ['Display ads'], 'paid'),
      channel('fair', 'Trade fairs', faults ? ['Fair'] : ['Fair', 'Workshop days'], 'owned', 'through'),
      channel('print', 'Print', ['Print'], 'owned', 'in', false),
    ],
    sources: [
      goesWith('quillsearch', 'paid-search'),
      goesWith('tessaloop', 'paid-social', 'organic-social'),
      goesWith('larkmoor-letter', 'email'),
      goesWith('baker-weekly', 'partner'),
      goesWith('wrenwick', 'partner'),
      goesWith('cargo-fair', 'fair'),
      goesWith('printed', 'print'),
      goesWith('display', 'display'),
    ],
    referrers: [
      { host: 'tessaloop.example', channel: 'Organic social' },
      { host: 'bakerweekly.example', channel: 'Partners' },
    ],
    aliases: [],
    outcomeCodes: {
      beginnings: [
        { code: 'FLT', label: 'Fleet' },
        { code: 'SHP', label: 'Shop' },
        { code: 'CAR', label: 'Care plan' },
        { code: 'GDE', label: 'the Loading guide' },
      ],
      longest: 6,
    },
  };
}
