import type { PageValue } from '../../core/destinations/contract';
import type { OwnPlatform } from '../../core/platforms/schema';
import { Cell, Part, Select, TakeOutRow, withoutEntry } from '../../ui/form/rows';

type PageTelling = NonNullable<OwnPlatform['page']>;

const fresh: PageTelling = {
  opener: '',
  call: '',
  writes: [
    ['/id', 'event_id'],
    ['/name', 'name'],
  ],
  joinHours: 0,
};

const kinds = [
  ['event_id', 'the event ID'],
  ['click_id', 'the click ID'],
  ['name', 'the event’s name there'],
  ['moment', 'when it happened, as 2027-02-15T09:42:00.000Z'],
  ['field', 'the field, as a text:'],
  ['number', 'the field, as a number:'],
] as const;
type Kind = (typeof kinds)[number][0];

/** How pages tell a platform, where it has a script of its own for them. */
export function PageTellingRows({
  rule: { page },
  disabled,
  onEdit,
}: {
  rule: OwnPlatform;
  disabled: boolean;
  onEdit: (part: Partial<OwnPlatform>) => void;
}) {
  if (!page)
    return (
      <Part heading="Told by pages" under="Pages do not tell it. If it has a script for pages, they can.">
        {!disabled && (
          <button type="button" className="button" onClick={() => onEdit({ page: fresh })}>
            It has a script for pages
          </button>
        )}
      </Part>
    );
  const set = (part: Partial<PageTelling>) => onEdit({ page: { ...page, ...part } });
  const setRow = (at: number, row: readonly [string, PageValue]) =>
    set({ writes: page.writes.map((one, n) => (n === at ? [...row] : one)) as PageTelling['writes'] });
  return (
    <Part
      heading="Told by pages"
      under="The script is loaded once, before the first event; its function is called with one object for each event."
    >
      <dl className="grid grid-cols-[180px_1fr] items-center gap-x-3 gap-y-2">
        <dt className="text-quiet">Path of its script</dt>
        <dd>
          <Cell
            label="Path of its script"
            className="w-64"
            value={page.opener}
            placeholder="/opener.js"
            disabled={disabled}
            onChange={(opener) => set({ opener })}
          />
        </dd>
        <dt className="text-quiet">Its function</dt>
        <dd>
          <Cell
            label="Its function"
            className="w-64"
            value={page.call}
            placeholder="lark.say"
            disabled={disabled}
            onChange={(call) => set({ call })}
          />
        </dd>
        <dt className="text-quiet">Joins page and server for</dt>
        <dd className="flex items-center gap-2">
          <input
            className="field value w-20"
            aria-label="Hours that it joins page and server"
            inputMode="numeric"
            value={String(page.joinHours)}
            disabled={disabled}
            onChange={(event) => set({ joinHours: Number(event.target.value.replace(/\D/g, '')) })}
          />
          hours
        </dd>
      </dl>
      <table className="rows mt-2">
        <tbody>
          {page.writes.map(([place, value], at) => {
            const [kind = 'name', field = ''] = value.split(' ') as [Kind, string?];
            const write = (next: Kind, name: string) =>
              setRow(at, [place, next === 'field' || next === 'number' ? `${next} ${name || 'worth'}` : next]);
            return (
              <tr key={at}>
                <td className="w-[34%] px-1!">
                  <Cell
                    label={`Place ${at + 1} of what is said`}
                    value={place}
                    placeholder="/id"
                    disabled={disabled}
                    onChange={(next) => setRow(at, [next, value])}
                  />
                </td>
                <td className="px-1!">
                  <Select
                    label={`What is said at place ${at + 1}`}
                    value={kind}
                    options={kinds}
                    disabled={disabled}
                    onChange={(next) => write(next, field)}
                  />
                </td>
                <td className="w-36 px-1!">
                  {field !== '' && (
                    <Cell
                      label={`Field at place ${at + 1}`}
                      value={field}
                      disabled={disabled}
                      onChange={(next) => write(kind, next)}
                    />
                  )}
                </td>
                <td className="w-20">
                  <TakeOutRow
                    label={`Take out place ${at + 1} of what is said`}
                    disabled={disabled}
                    onClick={() => set({ writes: withoutEntry(page.writes, at) })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {!disabled && (
        <p className="mt-2 flex gap-2">
          <button
            type="button"
            className="button"
            onClick={() => set({ writes: [...page.writes, ['', 'field worth']] })}
          >
            Add a value to what is said
          </button>
          <button type="button" className="button" onClick={() => onEdit({ page: null })}>
            Pages do not tell it
          </button>
        </p>
      )}
    </Part>
  );
}
