import { platformReadings, platformReadingWords } from '../../core/platforms/own/readings';
import type { OwnPlatform, PlatformTelling } from '../../core/platforms/schema';
import { escapeToken, pointerName } from '../../core/capture/pointer';
import { listIn } from '../../core/rules/says';
import { Cell, Part, Select, TakeOutRow, withEntry, withoutEntry } from '../../ui/form/rows';
import { TellingCall, wayOf } from './TellingCall';

const readings = platformReadings.map((reading) => [reading, platformReadingWords[reading]] as const);

/** How a platform is told: the call, what a row holds, and what its answer means. */
export function TellingRows({
  rule: { telling },
  disabled,
  onEdit,
}: {
  rule: OwnPlatform;
  disabled: boolean;
  onEdit: (part: Partial<OwnPlatform>) => void;
}) {
  const set = (part: Partial<PlatformTelling>) => onEdit({ telling: { ...telling, ...part } });
  const way = wayOf(telling);
  return (
    <>
      <TellingCall telling={telling} disabled={disabled} onEdit={set} />

      {way !== 'postback' && (
        <Part
          heading={way === 'file' ? 'Columns of the file' : 'What a row says'}
          under={
            way === 'file'
              ? 'In the order of the file, each with its heading.'
              : 'Each value with its place in the row, such as /click/id.'
          }
        >
          <div className={way === 'file' ? 'hidden' : 'flex flex-wrap items-center gap-2'}>
            <Select
              label="Rows in a call"
              className="w-64"
              value={telling.many ? 'many' : 'one'}
              options={[
                ['one', 'A call is one row'],
                ['many', 'A call has a list of rows'],
              ]}
              disabled={disabled}
              onChange={(many) => set({ many: many === 'many' })}
            />
            {telling.many && (
              <>
                <span>at</span>
                <Cell
                  label="Where the list of rows is"
                  className="w-40"
                  value={telling.rowsAt}
                  placeholder="the whole body"
                  disabled={disabled}
                  onChange={(rowsAt) => set({ rowsAt })}
                />
              </>
            )}
          </div>
          <table className="rows mt-2">
            <tbody>
              {telling.fields.map(({ at: place, reading, text }, at) => (
                <tr key={at}>
                  <td className="w-[34%] px-1!">
                    <Cell
                      label={way === 'file' ? `Heading ${at + 1}` : `Place ${at + 1}`}
                      value={way === 'file' ? pointerName(place) : place}
                      placeholder={way === 'file' ? 'click_id' : '/click_id'}
                      disabled={disabled}
                      onChange={(next) =>
                        set({
                          fields: withEntry(telling.fields, at, {
                            at: way === 'file' && next !== '' ? `/${escapeToken(next)}` : next,
                          }),
                        })
                      }
                    />
                  </td>
                  <td className="px-1!">
                    <Select
                      label={way === 'file' ? `What is in column ${at + 1}` : `What is at place ${at + 1}`}
                      value={reading}
                      options={readings}
                      disabled={disabled}
                      onChange={(next) => set({ fields: withEntry(telling.fields, at, { reading: next }) })}
                    />
                  </td>
                  <td className="w-36 px-1!">
                    {reading === 'text' && (
                      <Cell
                        label={way === 'file' ? `Text in column ${at + 1}` : `Text at place ${at + 1}`}
                        value={text}
                        disabled={disabled}
                        onChange={(next) => set({ fields: withEntry(telling.fields, at, { text: next }) })}
                      />
                    )}
                  </td>
                  <td className="w-20">
                    <TakeOutRow
                      label={way === 'file' ? `Take out column ${at + 1}` : `Take out place ${at + 1}`}
                      disabled={disabled}
                      onClick={() => set({ fields: withoutEntry(telling.fields, at) })}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {!disabled && (
            <button
              type="button"
              className="button mt-2"
              onClick={() => set({ fields: [...telling.fields, { at: '', reading: 'text', text: '' }] })}
            >
              {way === 'file' ? 'Add a column' : 'Add a value'}
            </button>
          )}
        </Part>
      )}
      <Answer telling={telling} disabled={disabled} onEdit={set} />
    </>
  );
}

function Answer({
  telling: { answer, many },
  disabled,
  onEdit,
}: {
  telling: PlatformTelling;
  disabled: boolean;
  onEdit: (part: Partial<PlatformTelling>) => void;
}) {
  const set = (part: Partial<PlatformTelling['answer']>) => onEdit({ answer: { ...answer, ...part } });
  const saysRows = answer.saysAt !== '' || answer.taken.length > 0;
  return (
    <Part heading="What its answer means">
      <Select
        label="How it answers"
        className="w-full sm:w-[26rem]"
        value={saysRows ? 'words' : 'status'}
        options={[
          ['status', 'The status says it: 200 to 299 means taken'],
          ['words', many ? 'A word in the answer says it of each row' : 'A word in the answer says it'],
        ]}
        disabled={disabled}
        onChange={(how) =>
          set(
            how === 'status'
              ? { rowsAt: '', idAt: '', saysAt: '', taken: [], toldBefore: [] }
              : { saysAt: many ? '/status' : '', taken: ['ok'] },
          )
        }
      />
      {saysRows && (
        <dl className="mt-3 grid grid-cols-[180px_1fr] items-center gap-x-3 gap-y-2">
          {many && (
            <>
              <dt className="text-quiet">The list of answers is at</dt>
              <dd>
                <Cell
                  label="Where the answers are"
                  className="w-52"
                  value={answer.rowsAt}
                  placeholder="the whole answer"
                  disabled={disabled}
                  onChange={(rowsAt) => set({ rowsAt })}
                />
              </dd>
              <dt className="text-quiet">Each has our event ID at</dt>
              <dd>
                <Cell
                  label="Where the event ID is"
                  className="w-52"
                  value={answer.idAt}
                  placeholder="nowhere: in our order"
                  disabled={disabled}
                  onChange={(idAt) => set({ idAt })}
                />
              </dd>
            </>
          )}
          <dt className="text-quiet">{many ? 'and says how it is at' : 'It says how it is at'}</dt>
          <dd>
            <Cell
              label="Where it says how it is"
              className="w-52"
              value={answer.saysAt}
              placeholder="the whole answer"
              disabled={disabled}
              onChange={(saysAt) => set({ saysAt })}
            />
          </dd>
          <dt className="text-quiet">Taken, if it says</dt>
          <dd>
            <Words label="Means taken" values={answer.taken} disabled={disabled} onChange={(taken) => set({ taken })} />
          </dd>
          <dt className="text-quiet">Told before, if it says</dt>
          <dd>
            <Words
              label="Means told before"
              values={answer.toldBefore}
              disabled={disabled}
              onChange={(toldBefore) => set({ toldBefore })}
            />
          </dd>
          <dt className="text-quiet">Anything else</dt>
          <dd>is refused, with what it said as the reason.</dd>
        </dl>
      )}
    </Part>
  );
}

/** Some words with commas between them; what is typed stays as it is typed. */
function Words({
  label,
  values,
  disabled,
  onChange,
}: {
  label: string;
  values: string[];
  disabled: boolean;
  onChange: (values: string[]) => void;
}) {
  return (
    <input
      key={disabled ? values.join() : label}
      className="field value w-full sm:w-80"
      aria-label={label}
      defaultValue={values.join(', ')}
      placeholder="ok, accepted"
      disabled={disabled}
      spellCheck={false}
      onChange={(event) => onChange(listIn(event.target.value))}
    />
  );
}
