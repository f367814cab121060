import fc from 'fast-check';
import { it } from 'vitest';
import { expectLedgers, play, rounds, roundsTake, steps } from './ledger-walks';

it(
  'each platform holds what it should, once and to the penny, whatever happened on the way',
  () =>
    fc.assert(
      fc.asyncProperty(steps, async (all) => expectLedgers(await play(all))),
      rounds(5, 1704),
    ),
  roundsTake,
);
