import fc from 'fast-check';
import { it } from 'vitest';
import { expectLedgers, hardDays, play, rounds, roundsTake, steps } from './ledger-walks';

it(
  'each platform holds what it should, once and to the penny, whatever happened on the way',
  () =>
    fc.assert(
      fc.asyncProperty(steps, async (all) => expectLedgers(await play(all))),
      // What is hard comes first, and then what chance gives.
      { ...rounds(8, 1704), examples: hardDays },
    ),
  roundsTake,
);
