/** One line of what `npm run bench` prints: Avrix's own rate or size against the bare counterpart of the same run. */
export interface Measured {
  name: string;
  /** Median of ours ÷ median of the bare one; null where it could not be measured. */
  ratio: number | null;
  target: number;
  better: 'higher' | 'lower';
  runs: number;
  /** How far the bare runs lie apart: the middle three of five, largest minus smallest, ÷ their median. */
  spread: number;
}

/** Above this spread of the bare runs nothing is said. */
const mostSpread = 0.15;

const wholeOnes = { maximumFractionDigits: 0 };
const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

function spreadOf(values: number[]): number {
  const middle = [...values].sort((a, b) => a - b).slice(1, -1);
  return (middle.at(-1)! - middle[0]!) / median(values);
}

/**
 * Runs the bare counterpart and ours in turns, five times each after one turn that only warms up, and compares their
 * rates.
 *
 * @param bare, ours do one run and return units a second
 */
export async function compareRates(
  name: string,
  target: number,
  unit: string,
  bare: () => Promise<number>,
  ours: () => Promise<number>,
): Promise<Measured> {
  const runs = 5;
  const rates = { bare: [] as number[], ours: [] as number[] };
  await bare();
  await ours();
  for (let run = 0; run < runs; run++) {
    rates.bare.push(await bare());
    rates.ours.push(await ours());
  }
  const shown = (values: number[]) =>
    values
      .map((value) => value.toLocaleString('en-GB', value < 100 ? { maximumSignificantDigits: 3 } : wholeOnes))
      .join(', ');
  console.log(`${name}, ${unit} a second\n  bare  ${shown(rates.bare)}\n  ours  ${shown(rates.ours)}`);
  const spread = spreadOf(rates.bare);
  const ratio = spread > mostSpread ? null : median(rates.ours) / median(rates.bare);
  return { name, ratio, target, better: 'higher', runs, spread };
}

/** Hands the results to the script that started this bench. */
export function tell(results: Measured[]): void {
  process.send!(results);
  process.exit(0);
}
