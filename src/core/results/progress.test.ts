import { expect, it } from 'vitest';
import { progressWords } from './progress';

it('says how far figures are, once it is known of how many', () => {
  expect(progressWords({ done: 0, of: 0 })).toBe('Working it out …');
  expect(progressWords({ done: 12_000, of: 57_500 })).toBe(
    'Working it out: 12,000 of 57,500 browsers followed back to what brought them …',
  );
});
