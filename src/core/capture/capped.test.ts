import { describe, expect, it } from 'vitest';
import { cappedBrowsers } from './capped';

const others = { browser: 'Blink', soon: 100, later: 40 };

describe('a browser that forgets visitors after 7 days', () => {
  it('is known by returns that end there, with about how many strangers it made', () => {
    expect(cappedBrowsers([others, { browser: 'WebKit', soon: 50, later: 0 }])).toEqual([
      { browser: 'WebKit', soon: 50, strangers: 20 },
    ]);
  });

  it.each([
    ['where one of its visitors came back later', [others, { browser: 'WebKit', soon: 50, later: 1 }]],
    ['where too few came back at all', [others, { browser: 'WebKit', soon: 19, later: 0 }]],
    [
      'where nobody else comes back later either',
      [
        { ...others, later: 0 },
        { browser: 'WebKit', soon: 50, later: 0 },
      ],
    ],
    [
      'where others say too little',
      [
        { browser: 'Blink', soon: 19, later: 9 },
        { browser: 'WebKit', soon: 50, later: 0 },
      ],
    ],
    [
      'where so few later returns were to be expected',
      [
        { ...others, later: 5 },
        { browser: 'WebKit', soon: 30, later: 0 },
      ],
    ],
    ['where the browser is not known', [others, { browser: '', soon: 50, later: 0 }]],
  ])('is not said to be one %s', (_, all) => {
    expect(cappedBrowsers(all)).toEqual([]);
  });
});
