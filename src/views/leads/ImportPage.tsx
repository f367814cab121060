import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { importPartWords } from '../../core/leads/imports';
import { importGivenSchema, type ImportedFile, type ImportsView } from '../../core/leads/imports-view';
import { listed } from '../../core/listed';
import { count, counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { RefusedRows } from '../../ui/files/RefusedRows';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendFile, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { leadsParts } from './LeadsFrame';

interface Props {
  business: string;
  initial: ImportsView;
  search: string;
}

/** Leads that somebody brings in: a list as a file, or one typed in. */
export function ImportPage(props: Props) {
  return (
    <Live>
      <Import {...props} />
    </Live>
  );
}

const yesNo = [
  ['yes', 'yes'],
  ['no', 'no'],
] as const;

function Import({ business, initial }: Props) {
  const api = `/api/b/${business}/leads/import`;
  const view = useView(api, initial, 5000);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Leads')}
      crumb={
        <>
          <a href={`/b/${business}/leads`} className="quiet-link">
            Leads
          </a>{' '}
          / Bring leads in
        </>
      }
    >
      {view.mayChange && (
        <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_1.4fr]">
          <FromFile api={api} view={view} />
          <ByHand api={api} view={view} />
        </div>
      )}
      <Lists business={business} view={view} />
    </StationFrame>
  );
}

function FromFile({ api, view }: { api: string; view: ImportsView }) {
  const client = useQueryClient();
  const [how, setHow] = useState({ list: '', handsOver: view.crm ? 'yes' : 'no', agreed: 'no', platform: '' });
  const set = (part: Partial<typeof how>) => setHow({ ...how, ...part });
  const send = useMutation({
    mutationFn: (file: File) => {
      const list = how.list.trim() || file.name.replace(/\.\w+$/, '');
      return sendFile<ImportedFile>(`${api}/file?${new URLSearchParams({ ...how, list })}`, file);
    },
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <section className="sheet p-5" aria-label="From a file">
      <h2 className="text-base">From a file</h2>
      <p className="text-quiet mt-1 text-[13px]">
        CSV or XLSX. Read are columns called {listed(Object.values(importPartWords).slice(1))}; a column id tells rows
        apart.
      </p>
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        <label className="block sm:col-span-2">
          <span className="text-quiet block text-[12.5px]">What the list is called (empty: as the file)</span>
          <input
            className="field mt-0.5 w-full"
            value={how.list}
            maxLength={120}
            placeholder="Cargo fair, February"
            onChange={(event) => set({ list: event.target.value })}
          />
        </label>
        {view.crm && (
          <Choose
            words={`Make records in ${view.crm}, of those with an email`}
            value={how.handsOver}
            options={yesNo}
            onChange={(handsOver) => set({ handsOver })}
          />
        )}
        <Choose
          words="They agreed that ad platforms are told"
          value={how.agreed}
          options={yesNo}
          onChange={(agreed) => set({ agreed })}
        />
        {view.platforms.length > 0 && (
          <Choose
            words="Click IDs are of"
            value={how.platform}
            options={[['', 'no platform'], ...view.platforms.map(({ key, words }) => [key, words] as const)]}
            onChange={(platform) => set({ platform })}
          />
        )}
      </div>
      <div className="mt-4">
        <FileButton words="Import a list" accept=".csv,.xlsx" onFile={(file) => send.mutate(file)} />
      </div>
      {send.isPending && <p role="status">Reading the file …</p>}
      <Problem text={send.error?.message} />
      {send.data && <Answer file={send.data} />}
    </section>
  );
}

function Choose({
  words,
  value,
  options,
  onChange,
}: {
  words: string;
  value: string;
  options: readonly (readonly [value: string, words: string])[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="block">
      <span className="text-quiet block text-[12.5px]">{words}</span>
      <select className="field mt-0.5 w-full" value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map(([one, text]) => (
          <option key={one} value={one}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

function Answer({ file: { taken, known, erased, notRead, refused } }: { file: ImportedFile }) {
  return (
    <div role="status" className="mt-3">
      {counted(taken, 'lead was', 'leads were')} brought in
      {known > 0 && `, ${count(known)} known already`}
      {erased > 0 && `, ${count(erased)} of people who were erased left out`}
      {refused.length > 0 && `, ${count(refused.length)} not`}.
      {notRead.length > 0 && (
        <p className="text-quiet mt-1">
          {notRead.length === 1 ? 'The column' : 'The columns'} {listed(notRead.slice(0, 20))}{' '}
          {notRead.length === 1 ? 'was' : 'were'} not read.
        </p>
      )}
      <RefusedRows refused={refused} />
    </div>
  );
}

function ByHand({ api, view }: { api: string; view: ImportsView }) {
  const client = useQueryClient();
  const form = useAppForm({
    name: 'lead by hand',
    schema: importGivenSchema,
    isStored: false,
    values: {
      list: 'By hand',
      handsOver: view.crm ? ('yes' as const) : ('no' as const),
      agreed: 'no' as const,
      platform: '',
      name: '',
      company: '',
      mail: '',
      telephone: '',
      enquiredAt: '',
      source: '',
      medium: '',
      campaign: '',
      content: '',
      clickId: '',
    },
    async save(given) {
      client.setQueryData([api], await sendJson<ImportsView>(api, given));
    },
  });
  return (
    <form onSubmit={form.onSubmit} className="sheet p-5" noValidate aria-label="By hand">
      <h2 className="text-base">One by hand</h2>
      <div className="mt-3 grid grid-cols-2 gap-3 md:grid-cols-3">
        <Field form={form} name="company" words="Company" />
        <Field form={form} name="name" words="Name" />
        <Field form={form} name="enquiredAt" words="Enquired (empty: now)" isValue placeholder="2027-02-15 17:00" />
        <Field form={form} name="mail" words="Email" isValue />
        <Field form={form} name="telephone" words="Telephone" isValue />
        <Field form={form} name="list" words="List" />
        <Field form={form} name="source" words="Source" isValue placeholder="cargo-fair" />
        <Field form={form} name="medium" words="Medium" isValue placeholder="fair" />
        <Field form={form} name="campaign" words="Campaign" isValue />
        {view.platforms.length > 0 && (
          <>
            <Field form={form} name="clickId" words="Click ID" isValue />
            <Field
              form={form}
              name="platform"
              words="Of"
              options={[['', 'no platform'], ...view.platforms.map(({ key, words }) => [key, words] as const)]}
            />
          </>
        )}
        {view.crm && <Field form={form} name="handsOver" words={`Make a record in ${view.crm}`} options={yesNo} />}
        <Field form={form} name="agreed" words="Agreed that platforms are told" options={yesNo} />
      </div>
      <Problem text={form.problem} />
      <div className="mt-4 flex gap-3">
        <button className="button button-strong" disabled={form.isSaving}>
          Add lead
        </button>
        {form.isWritten && (
          <button type="button" className="quiet-link cursor-pointer" onClick={form.undo}>
            Undo
          </button>
        )}
      </div>
    </form>
  );
}

type List = ImportsView['lists'][number];

function Lists({ business, view }: { business: string; view: ImportsView }) {
  const columns: Column<List>[] = [
    {
      id: 'name',
      head: 'List',
      by: ({ name }) => name,
      cell: ({ name }) => (
        <a className="quiet-link font-semibold" href={`/b/${business}/leads?find=${encodeURIComponent(name)}`}>
          {name}
        </a>
      ),
    },
    { id: 'leads', head: 'Leads', right: true, by: ({ leads }) => leads, cell: ({ leads }) => count(leads) },
    { id: 'inCrm', head: 'In the CRM', right: true, by: ({ inCrm }) => inCrm, cell: ({ inCrm }) => count(inCrm) },
    {
      id: 'waiting',
      head: 'On the way',
      right: true,
      by: ({ waiting }) => waiting,
      cell: ({ waiting }) => count(waiting),
    },
    {
      id: 'refused',
      head: 'Refused',
      right: true,
      by: ({ refused }) => refused,
      cell: ({ refused }) => count(refused),
    },
    {
      id: 'lastAt',
      head: 'Last brought in',
      by: ({ lastAt }) => lastAt,
      className: 'whitespace-nowrap',
      cell: ({ lastAt }) => <Time iso={lastAt} timeZone={view.timeZone} />,
    },
  ];
  return (
    <div className="mt-5">
      <DataTable
        label="Lists"
        rows={view.lists}
        idOf={({ name }) => name}
        columns={columns}
        none="No list was brought in yet."
      />
    </div>
  );
}
