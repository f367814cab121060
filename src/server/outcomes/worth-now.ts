import type { Money } from '../../core/outcomes';
import type { OutcomeRow } from '../db';

/** What an outcome is worth as it is known now. */
export const worthNow = ({
  correctedMinor,
  worthMinor,
  currency,
}: Pick<OutcomeRow, 'correctedMinor' | 'worthMinor' | 'currency'>): Money => ({
  minor: Number(correctedMinor ?? worthMinor),
  currency,
});
