import type { ReactNode } from 'react';
import { openColumns } from '../../core/platforms/own/readings';
import type { PlatformTelling } from '../../core/platforms/schema';
import { Cell, Part, Select, TakeOutRow, withEntry, withoutEntry } from '../../ui/form/rows';

/** By calls with JSON, by postbacks, which are addresses alone, or by files. */
type Way = 'json' | 'postback' | 'file';
export const wayOf = ({ writes, method }: PlatformTelling): Way =>
  writes === 'csv' ? 'file' : method === 'GET' ? 'postback' : 'json';
const ways = [
  ['json', 'By calls with JSON'],
  ['postback', 'By postbacks: all that it is told is in the address'],
  ['file', 'By files, in CSV'],
] as const;
const methods: Record<Way, readonly (readonly [PlatformTelling['method'], string])[]> = {
  json: [
    ['POST', 'POST'],
    ['PUT', 'PUT'],
    ['PATCH', 'PATCH'],
  ],
  postback: [['GET', 'GET']],
  file: [
    ['PUT', 'PUT'],
    ['POST', 'POST'],
  ],
};
const placeholders: Record<Way, string> = {
  json: '/v1/conversions',
  postback: '/told{?click_id,outcome,worth_text,currency,event_id}',
  file: '/conversions-{file}.csv',
};
const hints: Record<Way, ReactNode> = {
  json: (
    <>
      The path can hold values, written as <code className="value">{'/told{?click_id,event_id}'}</code> (RFC 6570);
    </>
  ),
  postback: (
    <>
      The path is a template (RFC 6570): <code className="value">{'{?click_id}'}</code> writes{' '}
      <code className="value">?click_id=…</code>, and <code className="value">{'?visit={click_id}'}</code> a name of its
      own;
    </>
  ),
  file: (
    <>
      <code className="value">{'{file}'}</code> is a name that no other file has;
    </>
  ),
};
/** What another way of telling begins with; what was written stays where it still means something. */
const startOf: Record<Way, (telling: PlatformTelling) => Partial<PlatformTelling>> = {
  json: () => ({ writes: 'json', method: 'POST', path: '', many: false }),
  postback: () => ({ writes: 'json', method: 'GET', path: placeholders.postback, many: false }),
  file: () => ({
    writes: 'csv',
    method: 'PUT',
    path: placeholders.file,
    fields: openColumns.map(([at, reading]) => ({ at, reading, text: '' })),
    answer: { rowsAt: '', idAt: '', saysAt: '', taken: [], toldBefore: [] },
  }),
};

/** When files are written, and at what time. */
function WhenWritten({
  telling: { files },
  disabled,
  onEdit,
}: {
  telling: PlatformTelling;
  disabled: boolean;
  onEdit: (part: Partial<PlatformTelling>) => void;
}) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <Select
        label="When a file is written"
        className="w-auto"
        value={files.every}
        options={[
          ['day', 'A file each day'],
          ['hour', 'A file at each full hour'],
          ['due', 'A file as soon as something is due'],
        ]}
        disabled={disabled}
        onChange={(every) => onEdit({ files: { ...files, every } })}
      />
      {files.every === 'day' && (
        <>
          <span>at</span>
          <input
            type="time"
            className="field value w-32"
            aria-label="Time of the day"
            value={files.at}
            disabled={disabled}
            onChange={(event) => onEdit({ files: { ...files, at: event.target.value } })}
          />
          <span className="text-quiet">in the account’s time zone</span>
        </>
      )}
    </div>
  );
}

/** By which calls a platform is told: the way, the address, what proves who tells, and headers. */
export function TellingCall({
  telling,
  disabled,
  onEdit: set,
}: {
  telling: PlatformTelling;
  disabled: boolean;
  onEdit: (part: Partial<PlatformTelling>) => void;
}) {
  const way = wayOf(telling);
  return (
    <Part
      heading="How it is told"
      under={
        <>
          Below the address that its account is connected with. {hints[way]} <code className="value">{'{token}'}</code>{' '}
          is the key. A signature is the HMAC-SHA256 of {way === 'postback' ? 'the path' : 'the body'} in hex, made with
          the key.
        </>
      }
    >
      <Select
        label="Way of telling"
        className="mb-2 w-full sm:w-[26rem]"
        value={way}
        options={ways}
        disabled={disabled}
        onChange={(next) => next !== way && set(startOf[next](telling))}
      />
      <div className="grid grid-cols-[110px_1fr] gap-2">
        <Select
          label="Method"
          value={telling.method}
          options={methods[way]}
          disabled={disabled}
          onChange={(method) => set({ method })}
        />
        <Cell
          label="Path"
          value={telling.path}
          placeholder={placeholders[way]}
          disabled={disabled}
          onChange={(path) => set({ path })}
        />
      </div>
      {way === 'file' && <WhenWritten telling={telling} disabled={disabled} onEdit={set} />}
      <label className="text-quiet mt-2 flex flex-wrap items-center gap-2">
        asked as a test, which counts nothing, at
        <Cell
          label="Path of tests"
          className="w-64"
          value={telling.testPath}
          placeholder="nowhere: it takes none"
          disabled={disabled}
          onChange={(testPath) => set({ testPath })}
        />
      </label>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Select
          label="How the key proves it"
          className="w-auto"
          value={telling.token.signs ? 'signs' : 'sends'}
          options={[
            ['sends', 'The key'],
            ['signs', 'A signature (HMAC)'],
          ]}
          disabled={disabled}
          onChange={(how) => set({ token: { ...telling.token, signs: how === 'signs' } })}
        />
        <span>goes into the header</span>
        <Cell
          label="Header of the key"
          className="w-40"
          value={telling.token.header}
          placeholder="authorization"
          disabled={disabled}
          onChange={(header) => set({ token: { ...telling.token, header } })}
        />
        <span>after</span>
        <input
          className="field value w-24"
          aria-label="Before the key"
          value={telling.token.before}
          placeholder="nothing"
          disabled={disabled}
          onChange={(event) => set({ token: { ...telling.token, before: event.target.value } })}
        />
      </div>
      {telling.headers.map(({ name, value }, at) => (
        <div key={at} className="mt-2 grid grid-cols-[160px_1fr_auto] items-center gap-2">
          <Cell
            label={`Name of header ${at + 1}`}
            value={name}
            placeholder="X-Account"
            disabled={disabled}
            onChange={(next) => set({ headers: withEntry(telling.headers, at, { name: next }) })}
          />
          <Cell
            label={`Value of header ${at + 1}`}
            value={value}
            disabled={disabled}
            onChange={(next) => set({ headers: withEntry(telling.headers, at, { value: next }) })}
          />
          <TakeOutRow
            label={`Take out header ${at + 1}`}
            disabled={disabled}
            onClick={() => set({ headers: withoutEntry(telling.headers, at) })}
          />
        </div>
      ))}
      {!disabled && (
        <button
          type="button"
          className="button mt-2"
          onClick={() => set({ headers: [...telling.headers, { name: '', value: '' }] })}
        >
          Add a header
        </button>
      )}
    </Part>
  );
}
