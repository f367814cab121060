import { hopWords, stateWords, valueWords, type TraceHop, type TracedValue, type TraceView } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import { Time } from '../text/Time';
import { Value } from '../text/Value';
import { Words } from '../text/Words';

/**
 * The values of one enquiry, a row each, at every hop; the line above them ends where the value stopped.
 * @param isNarrow where there is less room than a page has
 */
export function TraceTable({
  trace,
  isNarrow = false,
}: {
  trace: Pick<TraceView, 'way' | 'hops' | 'values' | 'timeZone'>;
  isNarrow?: boolean;
}) {
  const { hops } = waysIn[trace.way];
  const furthest =
    hops.length - 1 - [...trace.hops].reverse().findIndex((hop) => hop.state === 'made_it' || hop.state === 'lost');
  const held = trace.hops.slice(furthest + 1).find((hop) => hop.why);
  return (
    <div className={`sheet overflow-x-auto ${isNarrow ? '' : 'mt-4'}`}>
      <table className={`rows w-full table-fixed ${isNarrow ? 'min-w-[760px]' : 'min-w-[940px]'}`}>
        <thead>
          <tr>
            <th scope="col" className={`${isNarrow ? 'w-[104px]' : 'w-[124px]'} font-semibold! text-base-content!`}>
              Value
            </th>
            {trace.hops.map((hop) => (
              <th key={hop.hop} scope="col" className="px-2! font-semibold! text-base-content!">
                {hopWords[hop.hop]}
              </th>
            ))}
          </tr>
          <tr aria-hidden="true">
            <td className="py-0!" />
            {trace.hops.map((hop, i) => (
              <td key={hop.hop} className="p-0!">
                <Marker hop={hop} next={trace.hops[i + 1]} />
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row" className="font-normal!">
              when
            </th>
            {trace.hops.map((hop) => (
              <td key={hop.hop} className="text-quiet px-2! text-[12.5px]">
                {hop.at && hop.state === 'made_it' ? (
                  <Time iso={hop.at} timeZone={trace.timeZone} />
                ) : hop.state === 'none' ? (
                  ''
                ) : (
                  stateWords[hop.state]
                )}
              </td>
            ))}
          </tr>
        </thead>
        <tbody>
          {trace.values.map((row, index) => {
            const shown = index === 0 && held ? furthest + 1 : hops.length;
            return (
              <tr key={row.value}>
                <th scope="row" className="font-semibold! text-base-content!">
                  {valueWords[row.value]}
                </th>
                {hops.slice(0, shown).map((hop, i) => (
                  <td key={hop} className="px-2!">
                    <Cell
                      cell={row.cells[hop]!}
                      reached={i <= furthest}
                      carries={i < hops.indexOf('told') - Number(hops.includes('qualified'))}
                    />
                  </td>
                ))}
                {shown < hops.length && (
                  <td colSpan={hops.length - shown} className="text-quiet px-2!">
                    <Words text={held!.why} />
                  </td>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Cell({ cell, reached, carries }: { cell: TracedValue; reached: boolean; carries: boolean }) {
  switch (cell.state) {
    case 'first':
      return <Value text={cell.value} />;
    case 'same':
      return <span className="text-quiet">same</span>;
    case 'changed':
      return (
        <>
          <Value text={cell.value} />
          <div className="text-error text-[12.5px]">{cell.how}</div>
        </>
      );
    case 'swapped':
      return (
        <>
          <Value text={cell.value} />
          <div className="text-quiet text-[12.5px]">{cell.how}</div>
        </>
      );
    case 'empty':
      return <span className="text-error border-error border-b-2 border-dashed font-semibold">empty</span>;
    case 'none':
      return <span className="text-quiet">no value</span>;
    case 'not_seen':
      return <span className="text-quiet">{reached && carries ? 'not seen here' : ''}</span>;
  }
}

/** A hop on the line: solid where it was made, hollow where the value stopped or has not come yet. */
function Marker({ hop, next }: { hop: TraceHop; next: TraceHop | undefined }) {
  const made = hop.state === 'made_it';
  const goesOn = made && next?.state === 'made_it';
  const breaks = made && next?.state === 'lost';
  const colour = hop.state === 'lost' ? 'text-error' : made ? 'text-base-content' : 'text-quiet';
  const bar = 'bg-accent border-base-content h-[7px] border-y-[1.5px]';
  return (
    <div className="flex h-8 items-center pl-2">
      <svg viewBox="0 0 20 20" className={`relative z-1 -mr-1 size-5 shrink-0 ${colour}`}>
        <path
          d="M10 1.5L18.5 10L10 18.5L1.5 10Z"
          fill={made ? 'currentColor' : 'none'}
          stroke="currentColor"
          strokeWidth="2"
          strokeDasharray={hop.state === 'waiting' ? '3 2' : undefined}
        />
      </svg>
      {goesOn && <span className={`${bar} -mr-3 flex-1`} />}
      {breaks && (
        <>
          <span className={`${bar} flex-1`} />
          <svg
            viewBox="0 0 26 22"
            className="text-error mr-2 h-5 w-6 shrink-0"
            fill="none"
            stroke="currentColor"
            strokeWidth="2"
          >
            <path d="M0 11H20M0 11C8 10 14 8 17 3M0 11C8 12 14 14 17 19" />
          </svg>
        </>
      )}
    </div>
  );
}
