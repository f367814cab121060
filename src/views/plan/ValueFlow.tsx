import type { ShareView } from '../../core/plan/view';

const columns = ['link', 'kept', 'field', 'crm'] as const;
const headings = ['In the link', 'Kept by the page', 'Hidden field', 'In the CRM'];
const left = 110;
const step = 230;
const rowHeight = 46;

/** Each value on its way, a strand of its own from the link to the CRM; where it goes no further the strand ends. */
export function ValueFlow({ flow }: { flow: ShareView['flow'] }) {
  const height = 34 + flow.length * rowHeight;
  return (
    <svg
      viewBox={`0 0 ${left + step * 3 + 170} ${height}`}
      className="w-full max-w-[980px]"
      role="img"
      aria-label="Where each value goes from the link to the CRM"
    >
      {headings.map((words, index) => (
        <text key={words} x={left + index * step} y="14" className="fill-quiet" fontSize="13">
          {words}
        </text>
      ))}
      {flow.map((value, row) => {
        const y = 36 + row * rowHeight;
        const reached = columns.findIndex((column) => value[column] === '');
        const last = reached < 0 ? columns.length - 1 : reached - 1;
        return (
          <g key={value.words}>
            <text x="0" y={y + 5} fontSize="14" fontWeight="600" className="fill-base-content">
              {value.words}
            </text>
            {last > 0 && (
              <>
                <path d={`M${left} ${y}H${left + last * step}`} className="stroke-base-content" strokeWidth="5" />
                <path d={`M${left} ${y}H${left + last * step}`} className="stroke-accent" strokeWidth="3" />
              </>
            )}
            {columns.map((column, index) =>
              index > last ? (
                index === last + 1 && (
                  <text key={column} x={left + index * step} y={y + 5} fontSize="13" className="fill-error">
                    goes no further
                  </text>
                )
              ) : (
                <g key={column}>
                  <circle
                    cx={left + index * step}
                    cy={y}
                    r="4.5"
                    className="fill-base-100 stroke-base-content"
                    strokeWidth="2"
                  />
                  <text
                    x={left + index * step}
                    y={y + 22}
                    fontSize="12.5"
                    className={`fill-base-content ${column === 'kept' ? '' : 'value'}`}
                  >
                    {value[column]}
                    {column === 'field' && value.unread && <tspan className="fill-error">, not {value.unread}</tspan>}
                  </text>
                </g>
              ),
            )}
          </g>
        );
      })}
    </svg>
  );
}
