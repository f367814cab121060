import type { Column } from './line';

/** One strand of the drawing, in pixels. */
export interface DrawnStrand {
  /** Which stretch between two hops, from 0 (Clicked → Landed). */
  stretch: number;
  /** `joins` comes from above at Landed; `lost` runs straight to where it frays. */
  fate: 'through' | 'left' | 'waiting' | 'lost' | 'unknown' | 'joins';
  /** SVG path data. */
  path: string;
}

/** Where strands of a stretch are lost: how each frays, and the tick that leads from there to the reason below. */
export interface DrawnLoss {
  stretch: number;
  frays: string[];
  tick: string;
}

/** Counts of one hop, as the drawing needs them. */
export type DrawnColumn = Pick<Column, 'count' | 'lost' | 'left' | 'waiting' | 'unknown'>;

export interface Drawing {
  /** The x of each hop's rail. */
  rails: number[];
  railHeight: number;
  strands: DrawnStrand[];
  losses: DrawnLoss[];
}

const spacing = 3;
const most = 34;
const gap = 3;
/** Px above the strands, in which those that join come down. */
const above = 44;
/** Px of a fray's threads. */
const thread = { wide: 10, high: 4 };

/**
 * Draws the line from its counts: strands at constant spacing, their number by square root, so that small hops stay
 * visible. What goes on runs straight to the next rail; who left or waits stops on the way; what is lost frays in the
 * middle of its stretch; landings that no click count explains join from above.
 *
 * @param joined landings beyond those that clicks explain: Clicked − lost + joined = Landed
 * @param width of the drawing in px; each hop has an equal share
 * @param height px, at whose bottom the reasons begin
 */
export function drawLine(columns: DrawnColumn[], joined: number, width: number, height: number): Drawing {
  const share = width / columns.length;
  const rails = columns.map((_, i) => share * (i + 0.5));
  const largest = Math.max(1, ...columns.map((column) => column.count ?? 0));
  const drawn = (count: number) =>
    count <= 0 ? 0 : Math.max(1, Math.round((most * Math.sqrt(count)) / Math.sqrt(largest)));
  const middle = above + (most * spacing) / 2;
  const losses: DrawnLoss[] = [];

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
    const stopsAbove = stops.length >> 1;
    const top = middle - ((through - 1) / 2 + stopsAbove) * spacing;
    const from = rails[stretch]! + gap;
    const to = rails[stretch + 1]! - gap;
    const centre = round((from + to) / 2);
    const y = (row: number) => round(top + row * spacing);
    const rows = through + stops.length;
    if (lost > 0)
      losses.push({
        stretch,
        frays: Array.from({ length: lost }, (_, i) => fray(centre, y(rows + i))),
        tick: `M${centre} ${round(y(rows + lost - 1) + thread.high + 3)}V${height}`,
      });

    return Array.from({ length: rows + lost }, (_, row): DrawnStrand => {
      const line = `M${round(from)} ${y(row)}`;
      if (row >= stopsAbove && row < stopsAbove + through)
        return { stretch, fate: 'through', path: `${line}H${round(to)}` };
      if (row >= rows) return { stretch, fate: 'lost', path: `${line}H${centre}` };
      const fate = stops[row < stopsAbove ? row : row - through]!;
      return { stretch, fate, path: `${line}H${round(from + (to - from) * stopAt(row, stretch))}` };
    });
  });
  const landed = drawn(columns[1]?.count ?? 0);
  const topOfLanded = middle - ((landed - 1) / 2) * spacing;
  // As many as Landed has more than what comes from Clicked, so that both together are what lands.
  const come = drawn((columns[0]?.count ?? 0) - (columns[0]?.lost ?? 0));
  const joining = joined > 0 && landed > 0 ? Math.max(1, landed - come) : 0;
  const joins = Array.from({ length: joining }, (_, row): DrawnStrand => {
    const x = rails[1]! - 22 - (joining - 1 - row) * Math.min(4, 44 / joining);
    return { stretch: 0, fate: 'joins', path: descent(x, rails[1]! - gap, topOfLanded + row * spacing) };
  });
  return { rails: rails.map(round), railHeight: above + most * spacing + 8, strands: [...joins, ...strands], losses };
}

/** How far a strand that stops comes: ragged, the same at every drawing. */
function stopAt(row: number, stretch: number): number {
  return 0.38 + 0.42 * (((row * 7919 + stretch * 104729) % 97) / 97);
}

/** The threads into which a strand comes apart where it breaks. */
const fray = (x: number, y: number): string => {
  const up = `c3 -0.4 6 -1.4 ${thread.wide} -${thread.high}`;
  const down = `c3 0.4 6 1.4 ${thread.wide} ${thread.high}`;
  return `M${x} ${y}${up}M${x} ${y}${down}`;
};

/** From the top of the drawing down into a row of Landed. */
const descent = (x: number, to: number, y: number): string =>
  `M${round(x)} 6C${round(x)} ${round(y - 24)} ${round(x + 4)} ${round(y)} ${round(to)} ${round(y)}`;

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
