import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { callParts, callPartWords } from '../../core/leads/calls';
import type { CallSettingsGiven, CallSetUpView } from '../../core/leads/calls-view';
import { Problem } from '../../ui/form/Problem';
import { Places } from '../../ui/form/Places';
import { Cell, Part, Select } from '../../ui/form/rows';
import { SecretOnce, useMakeSecret } from '../../ui/form/SecretOnce';
import { useWritten } from '../../ui/form/useWritten';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

const parts = callParts.map((part) => [part, callPartWords[part]] as const);

/** How a telephone system sends calls, where in them the parts are, and what of them counts. */
export function CallSettings({ api, view, secretApi }: { api: string; view: CallSetUpView; secretApi: string }) {
  const client = useQueryClient();
  const make = useMakeSecret(secretApi);
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
        <SecretOnce make={make} hasSecret={view.hasSecret} mayChange={view.mayChange} />
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
        <Places
          parts={parts}
          label="sent"
          value={settings.reading}
          seen={view.lastPlaces}
          disabled={disabled}
          onChange={(part, at) => set({ reading: { ...settings.reading, [part]: at } })}
        >
          <span>the calls (empty: the whole of it)</span>
          <Cell
            label="The calls"
            value={settings.reading.calls}
            disabled={disabled}
            placeholder="/calls"
            onChange={(calls) => set({ reading: { ...settings.reading, calls } })}
          />
        </Places>
      </Part>
      {settings.columnsRead && (
        <Part
          heading="Columns of files"
          under="As they were named in the last file; a file with other columns is read by their names."
        >
          <Places
            parts={parts}
            label="column"
            value={settings.columnsRead}
            seen={[]}
            disabled={disabled}
            onChange={(part, at) => set({ columnsRead: { ...settings.columnsRead!, [part]: at } })}
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
