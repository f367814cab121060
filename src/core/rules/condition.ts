import { tests, type Test } from '../events/kinds';
import type { Condition } from '../events/schema';
import { readingName, testWords } from '../events/words';
import { partsOf, type Choice, type Option, type Piece, type Within } from './says';

const { choice, value, when } = partsOf<Condition>();

/** A test with its opposite, as one choice. */
const testAndNot: Within<Condition> = {
  key: 'test',
  read: ({ test, not }) => `${not ? '!' : ''}${test}`,
  write: (rule, to: string) => ({ ...rule, not: to.startsWith('!'), test: to.replace('!', '') as Test }),
};

/** A condition on a reading, as a part of a sentence. @param readings that can be looked at */
export const conditionPieces = (readings: Choice<Condition>['options']): Piece<Condition>[] => [
  choice('reading', 'What is looked at', readings, { words: (id) => readingName(id) }),
  ' ',
  choice(
    testAndNot,
    'How it is compared',
    tests.flatMap((test): Option[] => [
      [test, testWords[test][0]],
      [`!${test}`, testWords[test][1]],
    ]),
  ),
  when(({ test }) => test !== 'there', ' ', value('text', 'Wanted', 'a value', { tidy: (text) => text.trim() })),
];
