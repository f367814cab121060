import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { callParts, callPartWords, type CallReading } from '../../core/leads/calls';
import type { CallSettingsGiven, CallSetUpView } from '../../core/leads/calls-view';
import { Problem } from '../../ui/form/Problem';
import { Cell, Part, Select } from '../../ui/form/rows';
import { useWritten } from '../../ui/form/useWritten';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

/** How a telephone system sends calls, where in them the parts are, and what of them counts. */
export function CallSettings({ api, view, secretApi }: { api: string; view: CallSetUpView; secretApi: string }) {
  const client = useQueryClient();
  const { value: written, set: write } = useWritten<CallSettingsGiven | null>(
    'call settings',
    null,
    (value) => value === null,
  );
  const [isSaved, setIsSaved] = useState(false);
  const settings = written ?? view.settings;
  const set = (part: Partial<CallSettingsGiven>) => {
    setIsSaved(false);
    write({ ...settings, ...part });
  };
  const save = useMutation({
    mutationFn: () => sendJson(api, settings),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: [api] });
      write(null);
      setIsSaved(true);
    },
  });
  const disabled = !view.mayChange || save.isPending;
  return (
    <form
      aria-label="How calls come in"
      className="sheet mt-5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <div className="px-5 py-4">
        <h2 className="text-base">What counts</h2>
        <p className="mt-2 leading-[2.4]">
          A call is an enquiry from{' '}
          <NumberCell
            label="Shortest length in seconds"
            value={settings.shortest}
            disabled={disabled}
            onChange={(shortest) => set({ shortest })}
          />{' '}
          seconds on. One that nobody answered{' '}
          <Select
            label="Missed calls"
            className="w-auto"
            value={settings.missedCount ? 'yes' : 'no'}
            disabled={disabled}
            onChange={(value) => set({ missedCount: value === 'yes' })}
            options={[
              ['yes', 'is one too, unanswered'],
              ['no', 'is listed and not counted'],
            ]}
          />
          . Calls of one caller within{' '}
          <NumberCell
            label="Days within which calls are one enquiry"
            value={settings.sameDays}
            disabled={disabled}
            onChange={(sameDays) => set({ sameDays })}
          />{' '}
          days are one enquiry.
        </p>
      </div>
      <Part
        heading="Sent by your telephone system"
        under="A call or a list of them, as JSON or as a form, by POST. A call that is told again as it goes on is known by its number."
      >
        <div className="flex flex-wrap items-center gap-3">
          <code className="value [overflow-wrap:anywhere]">{view.address}</code>
          <Copy text={view.address} words="Copy" />
        </div>
        <Secret api={secretApi} hasSecret={view.hasSecret} mayChange={view.mayChange} />
        <p className="mt-2 leading-[2.4]">
          It proves itself in the header{' '}
          <Cell
            label="Header"
            className="w-44 leading-normal"
            value={settings.header}
            disabled={disabled}
            onChange={(header) => set({ header })}
          />{' '}
          by{' '}
          <Select
            label="Proof"
            className="w-auto"
            value={settings.proof}
            disabled={disabled}
            onChange={(proof) => set({ proof })}
            options={[
              ['token', 'the secret itself'],
              ['hmac', 'HMAC-SHA256 of the body in hex'],
            ]}
          />
          .
        </p>
        {view.lastAt && (
          <p className={view.lastProblem ? 'text-error mt-1' : 'text-quiet mt-1'}>
            Last sent <Time iso={view.lastAt} timeZone={view.timeZone} />
            {view.lastProblem ? `: ${view.lastProblem}` : ', and read.'}
          </p>
        )}
      </Part>
      <Part
        heading="Where the parts are in what is sent"
        under="Each as the way to it, such as /call/from. The calls themselves may be in a list."
      >
        <Reading
          label="sent"
          value={settings.reading}
          places={view.lastPlaces}
          disabled={disabled}
          onChange={(reading) => set({ reading: { ...settings.reading, ...reading } })}
        >
          <Line words="the calls (empty: the whole of it)">
            <Cell
              label="The calls"
              value={settings.reading.calls}
              disabled={disabled}
              placeholder="/calls"
              onChange={(calls) => set({ reading: { ...settings.reading, calls } })}
            />
          </Line>
        </Reading>
      </Part>
      {settings.columnsRead && (
        <Part
          heading="Columns of files"
          under="As they were named in the last file; a file with other columns is read by their names."
        >
          <Reading
            label="column"
            value={settings.columnsRead}
            places={[]}
            disabled={disabled}
            onChange={(reading) => set({ columnsRead: { ...settings.columnsRead!, ...reading } })}
          />
        </Part>
      )}
      {view.mayChange && (
        <div className="border-base-300 flex flex-wrap items-center gap-3 border-t px-5 py-4">
          <button className="button button-strong" disabled={disabled || written === null}>
            Save
          </button>
          {written !== null && (
            <button type="button" className="quiet-link cursor-pointer" onClick={() => write(null)}>
              Undo
            </button>
          )}
          {isSaved && <span role="status">Saved.</span>}
          <Problem text={save.error?.message} />
        </div>
      )}
    </form>
  );
}

function NumberCell({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string;
  value: number;
  disabled: boolean;
  onChange: (value: number) => void;
}) {
  return (
    <Cell
      label={label}
      className="w-16 text-right leading-normal"
      value={String(value)}
      disabled={disabled}
      onChange={(text) => /^\d{0,4}$/.test(text) && onChange(Number(text || '0'))}
    />
  );
}

function Line({ words, children }: { words: string; children: ReactNode }) {
  return (
    <>
      <span className="self-center">{words}</span>
      {children}
    </>
  );
}

/** Where each part of a call is. @param places of the last that was sent, to be picked from */
function Reading({
  label,
  value,
  places,
  disabled,
  onChange,
  children,
}: {
  label: string;
  value: CallReading;
  places: CallSetUpView['lastPlaces'];
  disabled: boolean;
  onChange: (part: Partial<CallReading>) => void;
  children?: ReactNode;
}) {
  const valueAt = new Map(places.map(({ at, value: found }) => [at, found]));
  return (
    <div className="grid max-w-[760px] grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)] gap-x-4 gap-y-2">
      <datalist id={`places-${label}`}>
        {places.map(({ at, value: found }) => (
          <option key={at} value={at}>
            {found}
          </option>
        ))}
      </datalist>
      {children}
      {callParts.map((part) => (
        <Line key={part} words={callPartWords[part]}>
          <div>
            <Cell
              label={`${callPartWords[part]}, ${label}`}
              value={value[part]}
              disabled={disabled}
              placeholder="not sent"
              list={`places-${label}`}
              onChange={(at) => onChange({ [part]: at })}
            />
            {valueAt.get(value[part]) && (
              <span className="text-quiet text-[12.5px]">
                was <code className="value">{valueAt.get(value[part])}</code>
              </span>
            )}
          </div>
        </Line>
      ))}
    </div>
  );
}

/** The secret, shown once when it is made. */
function Secret({ api, hasSecret, mayChange }: { api: string; hasSecret: boolean; mayChange: boolean }) {
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => sendJson<{ secret: string }>(api, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      {make.data ? (
        <>
          <span>Its secret, shown this once:</span>
          <code className="value [overflow-wrap:anywhere]">{make.data.secret}</code>
          <Copy text={make.data.secret} words="Copy secret" />
        </>
      ) : (
        <span>{hasSecret ? 'It has a secret.' : 'It has no secret yet, so nothing is taken.'}</span>
      )}
      {mayChange && !make.data && (
        <button type="button" className="button" disabled={make.isPending} onClick={() => make.mutate()}>
          {hasSecret ? 'Replace the secret' : 'Make a secret'}
        </button>
      )}
      <Problem text={make.error?.message} />
    </div>
  );
}
