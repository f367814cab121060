/* A funnel's strands: each row has as many as its count by square root, as long as it is of the first. */

/** One row of the drawing, in pixels. */
export interface DrawnStep {
  /** SVG path data of those that go on, to the end of what this step made. */
  through: string;
  /** Those of the step before that end here, and how they fray. */
  lost: string;
  frays: string;
  /** Those that may still go on. */
  open: string;
}

const spacing = 5;
const most = 8;
const thread = { wide: 10, high: 2.5 };

/** Strands of some counts by square root, so that few stay visible: those of the first step are `most` together. */
function strandsOf(counts: readonly number[], largest: number): number[] {
  const together = counts.reduce((sum, count) => sum + count, 0);
  const all = (most * Math.sqrt(together)) / Math.sqrt(Math.max(1, largest));
  const roots = counts.reduce((sum, count) => sum + Math.sqrt(count), 0);
  return counts.map((count) => (count <= 0 ? 0 : Math.max(1, Math.round((all * Math.sqrt(count)) / roots))));
}

/**
 * @param steps counts of each step; `lost` and `open` of those that came before it
 * @param width px of the first step's strands; those of every other are as long as its share of them
 * @param height px of a row
 */
export function drawFunnel(
  steps: readonly { made: number; lost: number; open: number }[],
  width: number,
  height: number,
): DrawnStep[] {
  const largest = steps[0]?.made ?? 0;
  const lengthOf = (count: number) => (largest === 0 ? 0 : Math.max(count > 0 ? 2 : 0, (width * count) / largest));
  return steps.map(({ made, lost, open }) => {
    const [through, waiting, gone] = strandsOf([made, open, lost], largest) as [number, number, number];
    const all = through + waiting + gone;
    const top = height / 2 - ((all - 1) * spacing) / 2;
    const y = (row: number) => round(top + row * spacing);
    const line = (from: number, to: number) => (row: number) => `M${round(from)} ${y(row)}H${round(to)}`;
    const end = lengthOf(made);
    const stop = end + lengthOf(open);
    const torn = stop + lengthOf(lost);
    const places = (from: number, count: number) => Array.from({ length: count }, (_, i) => from + i);
    return {
      through: places(0, through).map(line(0, end)).join(''),
      open: places(through, waiting).map(line(0, stop)).join(''),
      lost: places(through + waiting, gone)
        .map(line(0, Math.max(0, torn - thread.wide)))
        .join(''),
      frays: places(through + waiting, gone)
        .map((row) => fray(Math.max(0, torn - thread.wide), y(row)))
        .join(''),
    };
  });
}

const fray = (x: number, y: number): string =>
  `M${round(x)} ${y}c3 -0.2 6 -0.8 ${thread.wide} -${thread.high}M${round(x)} ${y}c3 0.2 6 0.8 ${thread.wide} ${thread.high}`;

const round = (value: number) => Math.round(value * 10) / 10;
