import type { OwnCrm } from '../../core/crms/schema';
import { nothingRead } from '../../core/rules/own-crm';
import { Cell, Part, Select } from '../../ui/form/rows';

/** How records of an own CRM arrive: sent, listed, in files; each can be used beside the others. */
export function WaysOfArrival({
  rule,
  places,
  disabled,
  onEdit,
}: {
  rule: OwnCrm;
  /** Where records may be in the example. */
  places: string[];
  disabled: boolean;
  onEdit: (part: Partial<OwnCrm>) => void;
}) {
  const { webhook, list, columns, token } = rule;
  return (
    <Part heading="How its records arrive">
      <datalist id="record-places">
        {places.map((place) => (
          <option key={place} value={place} />
        ))}
      </datalist>
      <Way
        words="It sends them to Avrix as they change"
        isOn={webhook !== null}
        disabled={disabled}
        onChange={(on) => onEdit({ webhook: on ? { proof: 'secret', header: 'x-avrix-secret', recordsAt: '' } : null })}
      >
        {webhook && (
          <Facts>
            <dt className="text-quiet">It proves itself by</dt>
            <dd>
              <Select
                label="How it proves itself"
                className="w-72"
                value={webhook.proof}
                options={[
                  ['secret', 'the shared secret'],
                  ['hmac', 'an HMAC-SHA256 of the body, in hex'],
                ]}
                disabled={disabled}
                onChange={(proof) => onEdit({ webhook: { ...webhook, proof } })}
              />
            </dd>
            <dt className="text-quiet">in the header</dt>
            <dd>
              <Cell
                label="Header of the proof"
                className="w-52"
                value={webhook.header}
                disabled={disabled}
                onChange={(header) => onEdit({ webhook: { ...webhook, header } })}
              />
            </dd>
            <dt className="text-quiet">Records are at</dt>
            <dd>
              <Cell
                label="Where the records are in what it sends"
                className="w-52"
                value={webhook.recordsAt}
                placeholder="the whole of it"
                list="record-places"
                disabled={disabled}
                onChange={(recordsAt) => onEdit({ webhook: { ...webhook, recordsAt } })}
              />
            </dd>
          </Facts>
        )}
      </Way>
      <Way
        words="Avrix asks it for what changed, every 5 minutes"
        isOn={list !== null}
        disabled={disabled}
        onChange={(on) =>
          onEdit({
            list: on
              ? { path: '/records', since: { name: 'changed_since', as: 'time' }, recordsAt: '', nextAt: '' }
              : null,
          })
        }
      >
        {list && (
          <Facts>
            <dt className="text-quiet">The list is at</dt>
            <dd>
              <Cell
                label="Path of the list"
                className="w-72"
                value={list.path}
                placeholder="/records"
                disabled={disabled}
                onChange={(path) => onEdit({ list: { ...list, path } })}
              />
            </dd>
            <dt className="text-quiet">Changed since is</dt>
            <dd className="flex flex-wrap items-center gap-2">
              <Cell
                label="Query name of changed since"
                className="w-44"
                value={list.since.name}
                disabled={disabled}
                onChange={(name) => onEdit({ list: { ...list, since: { ...list.since, name } } })}
              />
              <Select
                label="How the time is written"
                className="w-64"
                value={list.since.as}
                options={[
                  ['time', 'as 2027-02-15T09:42:00.000Z'],
                  ['seconds', 'in seconds since 1970'],
                  ['ms', 'in milliseconds since 1970'],
                ]}
                disabled={disabled}
                onChange={(as) => onEdit({ list: { ...list, since: { ...list.since, as } } })}
              />
            </dd>
            <dt className="text-quiet">Records are at</dt>
            <dd>
              <Cell
                label="Where the records are in its answer"
                className="w-52"
                value={list.recordsAt}
                placeholder="the whole of it"
                list="record-places"
                disabled={disabled}
                onChange={(recordsAt) => onEdit({ list: { ...list, recordsAt } })}
              />
            </dd>
            <dt className="text-quiet">The next page’s address is at</dt>
            <dd>
              <Cell
                label="Where the next page is in its answer"
                className="w-52"
                value={list.nextAt}
                placeholder="nowhere: one page is all"
                disabled={disabled}
                onChange={(nextAt) => onEdit({ list: { ...list, nextAt } })}
              />
            </dd>
            <dt className="text-quiet">The key goes into</dt>
            <dd className="flex flex-wrap items-center gap-2">
              <Cell
                label="Header of the key"
                className="w-44"
                value={token.header}
                disabled={disabled}
                onChange={(header) => onEdit({ token: { ...token, header } })}
              />
              after
              <input
                className="field value w-24"
                aria-label="Before the key"
                value={token.before}
                placeholder="nothing"
                disabled={disabled}
                onChange={(event) => onEdit({ token: { ...token, before: event.target.value } })}
              />
            </dd>
          </Facts>
        )}
      </Way>
      <Way
        words="They come in files, CSV or XLSX"
        isOn={columns !== null}
        disabled={disabled}
        onChange={(on) => onEdit({ columns: on ? nothingRead : null })}
      />
    </Part>
  );
}

function Way({
  words,
  isOn,
  disabled,
  onChange,
  children,
}: {
  words: string;
  isOn: boolean;
  disabled: boolean;
  onChange: (on: boolean) => void;
  children?: React.ReactNode;
}) {
  return (
    <div className="py-1">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={isOn}
          disabled={disabled}
          onChange={(event) => onChange(event.target.checked)}
        />
        {words}
      </label>
      {children}
    </div>
  );
}

const Facts = ({ children }: { children: React.ReactNode }) => (
  <dl className="mt-2 mb-1 ml-6 grid grid-cols-[170px_1fr] items-center gap-x-3 gap-y-2">{children}</dl>
);
