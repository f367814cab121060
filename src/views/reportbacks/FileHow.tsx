import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { codes } from 'currency-codes';
import { useId, useMemo } from 'react';
import {
  filePartWords,
  fileParts,
  type FiledHow,
  type FiledOneView,
  type FiledSample,
  type FilePart,
} from '../../core/outcomes/filed';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { Cell, Part, Select } from '../../ui/form/rows';
import { useWritten } from '../../ui/form/useWritten';
import { useSettled } from '../../ui/rule/useSettled';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

/** How the columns of a file are read, what that makes of its first rows, and the button that has it taken. */
export function FileHow({ api, here, view }: { api: string; here: string; view: FiledOneView }) {
  const client = useQueryClient();
  const {
    value: written,
    set: write,
    saved,
  } = useWritten<FiledHow | null>(`file ${view.file.id}`, null, (value) => value === null);
  const how = written ?? view.how;
  const set = (part: Partial<FiledHow>) => write({ ...how, ...part });
  const take = useMutation({
    mutationFn: () => sendJson(`${api}/take`, how),
    onSuccess: () => {
      saved();
      return client.invalidateQueries();
    },
  });
  const drop = useMutation({
    mutationFn: () => sendJson(`${api}/drop`, {}),
    onSuccess: () => {
      saved();
      location.assign(here);
    },
  });
  const asked = useSettled(how);
  const { data: sample, error } = useQuery({
    queryKey: [`${api}/try`, asked],
    queryFn: () => sendJson<FiledSample>(`${api}/try`, asked),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const disabled = !view.mayChange || take.isPending || drop.isPending;
  return (
    <form
      aria-label="How it is read"
      className="sheet mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        take.mutate();
      }}
    >
      <div className="px-5 py-4">
        {view.sameAs && (
          <p className="text-error mb-2">
            The same file was taken as “{view.sameAs.name}” on <Time iso={view.sameAs.at} timeZone={view.timeZone} />:
            its rows are known already.
          </p>
        )}
        <h2 className="text-base">Its columns</h2>
        <p className="text-quiet mt-0.5 text-[13px]">
          {view.isRemembered
            ? 'Read as the last file with these columns.'
            : 'Guessed by what they are called; what is in no column can be said for the whole file.'}
        </p>
        <div className="mt-3 grid gap-3 sm:grid-cols-3 lg:grid-cols-4 xl:grid-cols-7">
          {fileParts.map((part) => (
            <label key={part} className="block min-w-0">
              <span className="text-quiet block text-[12.5px]">{filePartWords[part]}</span>
              <Select
                label={filePartWords[part]}
                className="mt-0.5 w-full"
                value={how.columns[part] ?? ''}
                disabled={disabled}
                onChange={(column) => set({ columns: { ...how.columns, [part]: column } })}
                options={[['', 'in no column'], ...view.columns.filter(Boolean).map((name) => [name, name] as const)]}
              />
            </label>
          ))}
        </div>
      </div>
      <Settings how={how} view={view} set={set} disabled={disabled} />
      <Part
        heading="Its first rows"
        under={
          sample &&
          (sample.wrong === 0
            ? `${counted(sample.of, 'row was', 'rows were')} tried, and all can be taken.`
            : `${counted(sample.of, 'row was', 'rows were')} tried; ${count(sample.wrong)} would be refused.`)
        }
      >
        <Problem text={error?.message} />
        {sample && <Sample sample={sample} how={how} timeZone={view.timeZone} />}
      </Part>
      {view.mayChange && (
        <div className="border-base-300 flex flex-wrap items-center gap-3 border-t px-5 py-4">
          <button
            className="button button-strong"
            disabled={disabled || (how.compares === '' && view.outcomes.length === 0)}
          >
            {how.compares === '' ? 'Take this file' : 'Compare this file'}
          </button>
          <button type="button" className="button" disabled={disabled} onClick={() => drop.mutate()}>
            Discard it
          </button>
          {written && (
            <button type="button" className="quiet-link cursor-pointer" onClick={() => write(null)}>
              Undo
            </button>
          )}
          {how.compares === '' && view.outcomes.length === 0 && (
            <span className="text-error">
              No live outcome is reached by a row of a file.{' '}
              <a href={`${here.replace(/\/files$/, '')}?new=yes`} className="quiet-link">
                Make one
              </a>
            </span>
          )}
          <Problem text={take.error?.message ?? drop.error?.message} />
        </div>
      )}
    </form>
  );
}

interface SettingsProps {
  how: FiledHow;
  view: FiledOneView;
  set: (part: Partial<FiledHow>) => void;
  disabled: boolean;
}

/** What the rows themselves do not say. */
function Settings({ how, view, set, disabled }: SettingsProps) {
  const list = useId();
  const zones = useMemo(() => Intl.supportedValuesOf('timeZone'), []);
  return (
    <Part heading={how.compares === '' ? 'How they are written' : 'What they are, and how they are written'}>
      {(view.compared.length > 0 || how.compares !== '') && (
        <p className="mb-2">
          These rows are{' '}
          <Select
            label="What the file is for"
            className="w-auto"
            value={how.compares}
            disabled={disabled}
            onChange={(compares) => set({ compares })}
            options={[
              ['', 'counted as outcomes'],
              ...view.compared.map(
                ({ key, words }) => [key, `what another way told ${words}: compared, not counted`] as const,
              ),
            ]}
          />
          .
        </p>
      )}
      <datalist id={`${list}-zones`}>
        {zones.map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
      <datalist id={`${list}-currencies`}>
        {codes().map((code) => (
          <option key={code} value={code} />
        ))}
      </datalist>
      <p className="leading-[2.6]">
        Times without a zone are of{' '}
        <Cell
          label="Time zone"
          className="w-48 leading-normal"
          list={`${list}-zones`}
          value={how.timeZone}
          disabled={disabled}
          onChange={(timeZone) => set({ timeZone })}
        />
        , days are written{' '}
        <Select
          label="Days"
          className="w-auto"
          value={how.dates}
          disabled={disabled}
          onChange={(dates) => set({ dates })}
          options={[
            ['day first', '15/02/2027'],
            ['month first', '02/15/2027'],
          ]}
        />{' '}
        where they begin with no year, amounts{' '}
        <Select
          label="Amounts"
          className="w-auto"
          value={how.decimals}
          disabled={disabled}
          onChange={(decimals) => set({ decimals })}
          options={[
            ['point', '1,249.50'],
            ['comma', '1.249,50'],
          ]}
        />
        , in{' '}
        <Cell
          label="Currency of the file"
          className="w-20 leading-normal"
          list={`${list}-currencies`}
          value={how.currency}
          disabled={disabled}
          placeholder="none"
          onChange={(currency) => set({ currency: currency.toUpperCase() })}
        />{' '}
        where a row names none. Rows that name no outcome say{' '}
        <Select
          label="Outcome of the file"
          className="w-auto"
          value={how.says}
          disabled={disabled}
          onChange={(says) => set({ says })}
          options={[
            ['', 'nothing'],
            ...view.outcomes.map(({ says, code }) => [says, says === code ? says : `${says} (${code})`] as const),
          ]}
        />
        . Click IDs are of{' '}
        <Select
          label="Platform"
          className="w-auto"
          value={how.platform}
          disabled={disabled}
          onChange={(platform) => set({ platform })}
          options={[
            ['', 'any platform, if Avrix knows the click'],
            ...view.platforms.map(({ key, words }) => [key, `${words}, also clicks that Avrix has not seen`] as const),
          ]}
        />
        . These people{' '}
        <Select
          label="Agreed"
          className="w-auto"
          value={how.agreed}
          disabled={disabled}
          onChange={(agreed) => set({ agreed })}
          options={[
            ['no', 'did not say'],
            ['yes', 'agreed'],
          ]}
        />{' '}
        that ad platforms are told.
      </p>
    </Part>
  );
}

function Sample({ sample, how, timeZone }: { sample: FiledSample; how: FiledHow; timeZone: string }) {
  const shown = fileParts.filter(
    (part) =>
      (how.columns[part] ?? '') !== '' || (part !== 'change' && sample.rows.some(({ parts }) => parts[part] !== '')),
  );
  const cell = (part: FilePart, text: string) =>
    part === 'happened_at' && /^\d{4}-.*Z$/.test(text) ? <Time iso={text} timeZone={timeZone} /> : text;
  return (
    <div className="overflow-x-auto">
      <table className="rows w-full">
        <thead>
          <tr>
            <th className="text-right!">Row</th>
            {shown.map((part) => (
              <th key={part} className={part === 'amount' ? 'text-right!' : 'text-left'}>
                {filePartWords[part]}
              </th>
            ))}
            <th className="text-left">Problem</th>
          </tr>
        </thead>
        <tbody>
          {sample.rows.map(({ row, parts, wrong }) => (
            <tr key={row}>
              <td className="value text-right">{count(row)}</td>
              {shown.map((part) => (
                <td
                  key={part}
                  className={`value max-w-52 truncate ${part === 'amount' ? 'text-right' : ''}`}
                  title={parts[part]}
                >
                  {cell(part, parts[part])}
                </td>
              ))}
              <td className="text-error">
                <Words text={wrong} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
