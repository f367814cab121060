import type { Column } from './line';

/** One strand of the drawing between two hops, in pixels. A lost one bends away and ends at its reason. */
export interface DrawnStrand {
  /** Which stretch, from 0 (Clicked → Landed). */
  stretch: number;
  fate: 'through' | 'left' | 'waiting' | 'lost' | 'unknown';
  /** SVG path data. */
  path: string;
}

/** Counts of one hop, as the drawing needs them. */
export type DrawnColumn = Pick<Column, 'count' | 'lost' | 'left' | 'waiting' | 'unknown'>;

export interface Drawing {
  /** The x of each hop's rail. */
  rails: number[];
  railHeight: number;
  strands: DrawnStrand[];
}

const spacing = 3;
const most = 34;
const gap = 3;

/**
 * Draws the line from its counts: strands at constant spacing, their number by square root, so that small hops stay
 * visible. What goes on runs straight to the next rail; who left or waits stops on the way; what is lost bends down.
 *
 * @param width of the drawing in px; each hop has an equal share
 * @param height px, at whose bottom the lost ones end
 */
export function drawLine(columns: DrawnColumn[], width: number, height: number): Drawing {
  const share = width / columns.length;
  const rails = columns.map((_, i) => share * (i + 0.5));
  const largest = Math.max(1, ...columns.map((column) => column.count ?? 0));
  const drawn = (count: number) =>
    count <= 0 ? 0 : Math.max(1, Math.round((most * Math.sqrt(count)) / Math.sqrt(largest)));
  const railHeight = most * spacing + 8;
  const middle = railHeight / 2;

  const strands = columns.slice(0, -1).flatMap((column, stretch): DrawnStrand[] => {
    const goesOn = stretch === 0 ? (column.count ?? 0) - column.lost : (columns[stretch + 1]!.count ?? 0);
    const through = drawn(goesOn);
    const fates = (['left', 'waiting', 'unknown', 'lost'] as const).filter((fate) => column[fate] > 0);
    const stopping = Math.max(drawn(column.count ?? 0) - through, fates.length);
    const shares = divide(
      stopping,
      fates.map((fate) => Math.sqrt(column[fate])),
    );
    const lost = fates.includes('lost') ? shares[fates.indexOf('lost')]! : 0;
    const stops = fates.flatMap((fate, i) => (fate === 'lost' ? [] : Array.from({ length: shares[i]! }, () => fate)));
    const above = stops.length >> 1;
    const top = middle - ((through - 1) / 2 + above) * spacing;
    const from = rails[stretch]! + gap;
    const to = rails[stretch + 1]! - gap;
    const y = (row: number) => round(top + row * spacing);

    return Array.from({ length: above + through + (stops.length - above) + lost }, (_, row): DrawnStrand => {
      if (row >= above && row < above + through)
        return { stretch, fate: 'through', path: `M${round(from)} ${y(row)}H${round(to)}` };
      const beyond = row - above - through;
      const after = stops.length - above;
      if (beyond >= after) return { stretch, fate: 'lost', path: bend(from, to, y(row), height, beyond - after, lost) };
      const fate = row < above ? stops[row]! : stops[above + beyond]!;
      return { stretch, fate, path: `M${round(from)} ${y(row)}H${round(from + (to - from) * stopAt(row, stretch))}` };
    });
  });
  return { rails: rails.map(round), railHeight, strands };
}

/** How far a strand that stops comes: ragged, the same at every drawing. */
function stopAt(row: number, stretch: number): number {
  return 0.38 + 0.42 * (((row * 7919 + stretch * 104729) % 97) / 97);
}

/** Straight on, then down to the reason in the middle of the stretch; side by side where there are several. */
function bend(from: number, to: number, y: number, height: number, index: number, count: number): string {
  const centre = (from + to) / 2 + ((count - 1) / 2 - index) * spacing;
  const turn = centre - 18;
  return `M${round(from)} ${y}H${round(turn)}C${round(centre)} ${y} ${round(centre)} ${y + 12} ${round(centre)} ${y + 30}V${height}`;
}

/** Shares `total` whole things by weight, at least one each; the last remainder goes to the heaviest. */
function divide(total: number, weights: number[]): number[] {
  const sum = weights.reduce((a, b) => a + b, 0);
  const spare = total - weights.length;
  const shares = weights.map((weight) => 1 + Math.floor((spare * weight) / sum));
  const heaviest = weights.indexOf(Math.max(...weights));
  if (heaviest >= 0) shares[heaviest]! += total - shares.reduce((a, b) => a + b, 0);
  return shares;
}

const round = (value: number) => Math.round(value * 10) / 10;
