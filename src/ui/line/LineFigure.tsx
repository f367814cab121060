import { useEffect, useRef, useState } from 'react';
import { count, drawLine, hopNameOf, type ColumnView, type DrawnStrand, type LineView } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import { Words } from '../text/Words';
import { strandsAddress } from './addresses';

const usualWidth = 1232;
const height = 196;

const strokes: Record<DrawnStrand['fate'], { stroke: string; dashes?: string; opacity?: number }> = {
  through: { stroke: '#e8b53c' },
  left: { stroke: '#e8b53c', opacity: 0.75 },
  waiting: { stroke: '#e8b53c', dashes: '2 3' },
  unknown: { stroke: '#a9bdb5', dashes: '1 4' },
  lost: { stroke: '#e8b53c' },
  joins: { stroke: '#e8b53c', opacity: 0.8 },
};

/** An equal share for each hop, and half a share, by how many hops there are. */
const grids: Record<number, { hops: string; halves: string }> = {
  6: { hops: 'grid-cols-6', halves: 'grid-cols-12' },
  8: { hops: 'grid-cols-8', halves: 'grid-cols-16' },
};

/** The line as a picture, its figures above and its reasons below, and a table with the same content behind it. */
export function LineFigure({ line, business }: { line: LineView; business: string }) {
  const [box, width] = useWidth();
  const grid = grids[line.columns.length] ?? grids[8]!;
  const joined = line.landedUncounted + line.surplus;
  const drawing = drawLine(line.columns, joined, width, height);
  return (
    <figure ref={box} className="relative">
      <div className={`grid ${grid.hops}`}>
        {line.columns.map((column) => (
          <Figure key={column.hop} column={column} name={nameOf(line, column)} href={hrefOf(line, business, column)} />
        ))}
      </div>
      <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} className="mt-2 block" aria-hidden="true">
        {drawing.rails.map((x) => (
          <path key={x} d={`M${x} 0V${drawing.railHeight}`} stroke="#45605a" strokeWidth="1" />
        ))}
        {drawing.losses.map(({ stretch, tick }) => (
          <path key={stretch} d={tick} stroke="#ff6f91" strokeWidth="1" opacity="0.7" />
        ))}
        {drawing.strands.map(({ path, fate }, i) => {
          const { stroke, dashes, opacity } = strokes[fate];
          return (
            <path
              key={i}
              d={path}
              fill="none"
              stroke={stroke}
              strokeWidth="1.5"
              strokeDasharray={dashes}
              opacity={opacity}
            />
          );
        })}
        {drawing.losses.map(({ stretch, frays }) => (
          <path key={stretch} d={frays.join('')} fill="none" stroke="#ff6f91" strokeWidth="1.5" />
        ))}
      </svg>
      {joined > 0 && <Joined joined={joined} halves={grid.halves} />}
      <div className={`grid items-start ${grid.halves}`}>
        {line.columns.slice(0, -1).map((column, i) => (
          <Notes key={column.hop} line={line} business={business} index={i} />
        ))}
      </div>
      <LineTable line={line} />
    </figure>
  );
}

/** Landings that no click count explains, beside the strands that join. */
function Joined({ joined, halves }: { joined: number; halves: string }) {
  return (
    <div className={`text-hero-quiet pointer-events-none absolute inset-x-0 top-[54px] grid ${halves}`}>
      <p className="col-start-2 text-right text-[12.5px] leading-[1.2]">
        <span className="value text-hero-ink block text-[14px] font-semibold">+{count(joined)}</span>
        no click count
      </p>
    </div>
  );
}

const nameOf = ({ way, outcome }: LineView, { hop }: ColumnView): string => hopNameOf(waysIn[way], outcome, hop);

function hrefOf(line: LineView, business: string, column: ColumnView): string | null {
  if (column.hop === 'clicked' || !column.count) return null;
  return strandsAddress(business, line, { hop: column.hop, state: 'made_it' });
}

function Figure({ column, name, href }: { column: ColumnView; name: string; href: string | null }) {
  const number = column.count === null ? 'not known' : count(column.count);
  const size = column.count === null ? 'text-[15px] leading-7' : 'text-[19px] font-semibold';
  return (
    <div className="text-center">
      {href ? (
        <a href={href} className={`value ${size} hover:underline`}>
          {number}
        </a>
      ) : (
        <span
          className={column.count === null ? `${size} text-hero-quiet` : `value ${size}`}
          title={column.hop === 'clicked' ? 'Reported by the platforms; there are no rows behind it' : undefined}
        >
          {number}
        </span>
      )}
      <div className="font-semibold">{name}</div>
    </div>
  );
}

/** What became of those that did not come to the next hop, under the middle of its stretch. */
function Notes({ line, business, index }: { line: LineView; business: string; index: number }) {
  const column = line.columns[index]!;
  const next = line.columns[index + 1]!.hop;
  const losses = line.losses.filter((loss) => loss.to === next);
  const [first] = losses;
  const others = losses.length - 1;
  return (
    <div className="text-hero-quiet col-span-2 px-2 text-center first:col-start-2 text-[12.5px] leading-[1.3]">
      {first && (
        <div className="mb-2">
          <a
            href={first.kind === 'inferred' ? '#losses' : strandsAddress(business, line, { hop: next, state: 'lost' })}
            className="value text-hero-break text-[14px] font-semibold hover:underline"
          >
            −{count(column.lost)}
          </a>
          <div className="text-hero-ink">
            <Words text={first.words.short} />
            {others > 0 && `, ${others} more`}
          </div>
        </div>
      )}
      {column.leftNotes.concat(column.waitingNotes).map((note, i) => (
        <a
          key={note.code}
          href={strandsAddress(business, line, {
            hop: next,
            state: i < column.leftNotes.length ? 'left' : 'waiting',
            reason: note.code,
          })}
          className="block hover:underline"
        >
          {count(note.strands)} <Words text={note.words} />
        </a>
      ))}
    </div>
  );
}

function LineTable({ line }: { line: LineView }) {
  return (
    <table className="sr-only">
      <caption>The line: strands at each hop</caption>
      <thead>
        <tr>
          {['Hop', 'Made it', 'Joined here', 'Lost before the next', 'Left', 'Waiting'].map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {line.columns.map((column) => (
          <tr key={column.hop}>
            <th scope="row">{nameOf(line, column)}</th>
            <td>{column.count === null ? 'not known' : count(column.count)}</td>
            <td>{column.hop === 'landed' ? count(line.landedUncounted + line.surplus) : 0}</td>
            <td>{count(column.lost)}</td>
            <td>{count(column.left)}</td>
            <td>{count(column.waiting)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The width the drawing has, measured in the browser; on the server the usual one. */
function useWidth(): [React.RefObject<HTMLElement | null>, number] {
  const box = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(usualWidth);
  useEffect(() => {
    const watcher = new ResizeObserver(([entry]) => setWidth(Math.max(640, Math.round(entry!.contentRect.width))));
    watcher.observe(box.current!);
    return () => watcher.disconnect();
  }, []);
  return [box, width];
}
