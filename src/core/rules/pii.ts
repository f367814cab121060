import type { CaptureRules } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';
import { isClickIdName, isTag } from './taken';

const { list, said } = partsOf<CaptureRules['pii']>();

/** What is taken out of addresses. */
export const pii = defineRule<CaptureRules['pii']>({
  station: 'Capture',
  at: inOne(['capture', 'pii']),
  says: [
    'Email addresses and telephone numbers are taken out of every address before anything is kept or sent',
    said(
      ({ names }) => names.length > 0,
      ', and the values of ',
      list('names', 'Query names that contain personal data', 'no other names', {
        oneWord: true,
        tidy: (text) => text.toLowerCase(),
      }),
    ),
    '.',
  ],
  check: ({ names }, content) =>
    names
      .filter((name) => isTag(content, name) || isClickIdName(content.capture, name))
      .map((name) => ({
        field: 'names',
        was: `${quoteValue(name)} is a tag or a click ID, which would be lost`,
        fix: 'Take it out of the list.',
      })),
});
