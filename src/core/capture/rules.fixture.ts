import type { SeenField } from './fill';
import type { CaptureRules, FillRule, ValueRule } from './schema';

/** A fill rule for every form and page, with what a test says of it. */
export const fillRule = (rule: Partial<FillRule> & Pick<FillRule, 'id' | 'field' | 'reading'>): FillRule => ({
  find: 'name',
  forms: [],
  pages: [],
  platform: '',
  swap: '',
  when: 'always',
  otherwise: '',
  ...rule,
});

/** A keep rule for a query value of one's own, with what a test says of it. */
export const valueRule = (rule: Partial<ValueRule> & Pick<ValueRule, 'name'>): ValueRule => ({
  cookie: `avx_${rule.name}`,
  days: 90,
  age: 'renewed',
  which: 'last',
  lowerCase: false,
  characters: 'any',
  longest: 200,
  ...rule,
});

/** Hidden fields of a form, by name. */
export const hiddenFields = (names: string[], value = ''): SeenField[] =>
  names.map((name) => ({ name, id: '', label: '', hidden: true, value }));

/** Rules for tests: the Larkmoor website, one platform, both forms. */
export const rules: CaptureRules = {
  keep: {
    touchDays: 90,
    touchAge: 'renewed',
    utmLowerCase: true,
    clickIds: [
      {
        platform: 'quillsearch',
        parameter: 'qsid',
        alsoAs: [],
        days: 90,
        source: 'quillsearch',
        medium: 'paid-search',
      },
      { platform: 'tessaloop', parameter: 'tsl', alsoAs: [], days: 30, source: 'tessaloop', medium: '' },
    ],
    values: [],
    setBy: 'page',
  },
  swaps: [],
  elsewhere: [],
  touch: { visitMinutes: 30, ownHosts: ['larkmoor.localhost'], passThroughHosts: ['pay.example'] },
  fill: [
    fillRule({ id: 'a', field: 'click_id', forms: ['test-ride'], reading: 'click_id' }),
    fillRule({ id: 'b', field: 'source', reading: 'last_source', when: 'empty' }),
  ],
  consent: { required: false, count: false },
  carry: [],
  tagCarry: [],
  pii: { names: ['email', 'phone'] },
  orders: [],
  callCodes: [],
  forms: [{ name: 'test-ride', words: 'Ask for a test ride', counts: 'enquiry' as const }],
};

export const day = 86_400_000;
/** 2027-02-01, 09:00 UTC. */
export const start = Date.UTC(2027, 1, 1, 9);
