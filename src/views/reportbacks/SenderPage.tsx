import { useMutation, useQueryClient } from '@tanstack/react-query';
import { noticeParts, noticePartWords } from '../../core/outcomes/notices';
import type { SenderGiven } from '../../core/outcomes/notices/schema';
import type { SenderSetUpView, TriedPostback } from '../../core/outcomes/notices/view';
import { Problem } from '../../ui/form/Problem';
import { Places } from '../../ui/form/Places';
import { Cell, Part, Select } from '../../ui/form/rows';
import { useWritten } from '../../ui/form/useWritten';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { reportBacksParts } from './ReportBacksFrame';
import { SenderSteps } from './SenderParts';
import { SenderProof } from './SenderProof';
import { TryPostback } from './TryPostback';

interface Props {
  business: string;
  initial: SenderSetUpView;
}

const parts = noticeParts.map((part) => [part, noticePartWords[part]] as const);

/** One sender of postbacks: its address and proof, where in what it posts the parts are, and what its steps mean. */
export function SenderPage(props: Props) {
  return (
    <Live>
      <Sender {...props} />
    </Live>
  );
}

function Sender({ business, initial }: Props) {
  const client = useQueryClient();
  const home = `/b/${business}/report-backs/postbacks`;
  const api = `/api${home}`;
  const view = useView(`${api}/${initial.id || 'new'}`, initial, initial.id ? 5000 : undefined);
  const { value: written, set: write } = useWritten<SenderGiven | null>(
    `sender ${initial.id}`,
    null,
    (value) => value === null,
  );
  const given = written ?? view.given;
  const set = (part: Partial<SenderGiven>) => write({ ...given, ...part });
  const save = useMutation({
    mutationFn: () => sendJson<{ id: string }>(`${api}/save`, { ...given, id: view.id }),
    onSuccess: async ({ id }) => {
      write(null);
      if (view.id === '') location.assign(`${home}/${id}`);
      else await client.invalidateQueries();
    },
  });
  const retire = useMutation({
    mutationFn: () => sendJson(`${api}/retire`, { id: view.id, retired: !view.isRetired }),
    onSuccess: () => client.invalidateQueries(),
  });
  const disabled = !view.mayChange || save.isPending;
  return (
    <StationFrame
      sentence={view.sentence}
      parts={reportBacksParts(business, 'Postbacks')}
      crumb={
        <a href={home} className="quiet-link">
          Postbacks
        </a>
      }
      actions={
        view.id !== '' &&
        view.mayChange && (
          <button type="button" className="button" disabled={retire.isPending} onClick={() => retire.mutate()}>
            {view.isRetired ? 'Use it again' : 'Retire'}
          </button>
        )
      }
    >
      <Problem text={retire.error?.message} />
      <div className="mt-4 grid grid-cols-1 items-start gap-5 xl:grid-cols-[1.5fr_1fr]">
        <form
          aria-label="Sender"
          className="sheet"
          onSubmit={(event) => {
            event.preventDefault();
            save.mutate();
          }}
        >
          <div className="px-5 py-4">
            <label className="flex flex-wrap items-center gap-3">
              <span>Called</span>
              <Cell
                label="Name"
                className="w-72"
                isValue={false}
                value={given.name}
                disabled={disabled}
                placeholder="Larkmoor’s till"
                onChange={(name) => set({ name })}
              />
            </label>
          </div>
          <SenderProof api={api} view={view} given={given} set={set} disabled={disabled} />
          <SenderSteps view={view} given={given} set={set} disabled={disabled} />
          <Part
            heading="Where its parts are"
            under="Each as the way to it, such as /payment/amount; names of an address’s query too."
          >
            <Places
              parts={parts}
              value={given.reading}
              seen={view.lastPlaces}
              disabled={disabled}
              onChange={(part, at) => set({ reading: { ...given.reading, [part]: at } })}
            />
            <p className="mt-3 leading-[2.4]">
              Amounts are{' '}
              <Select
                label="How amounts are written"
                className="w-auto"
                value={given.inMinor ? 'minor' : 'major'}
                disabled={disabled}
                onChange={(value) => set({ inMinor: value === 'minor' })}
                options={[
                  ['major', 'written as 54.00'],
                  ['minor', 'in pence or cents'],
                ]}
              />
              , in{' '}
              <Cell
                label="Currency"
                className="w-20 leading-normal"
                value={given.currency}
                disabled={disabled}
                onChange={(currency) => set({ currency: currency.toUpperCase() })}
              />{' '}
              where it names none. A refund names{' '}
              <Select
                label="What a refund names"
                className="w-auto"
                value={given.refundSays}
                disabled={disabled}
                onChange={(refundSays) => set({ refundSays })}
                options={[
                  ['back', 'what was given back'],
                  ['left', 'what is left of the payment'],
                ]}
              />
              ; without an amount all of it was given back.
            </p>
          </Part>
          {view.mayChange && (
            <div className="border-base-300 flex flex-wrap items-center gap-3 border-t px-5 py-4">
              <button className="button button-strong" disabled={disabled || written === null}>
                {view.id === '' ? 'Add sender' : 'Save sender'}
              </button>
              {written !== null && (
                <button type="button" className="quiet-link cursor-pointer" onClick={() => write(null)}>
                  Undo
                </button>
              )}
              {save.isSuccess && written === null && <span role="status">Saved.</span>}
              <Problem text={save.error?.message} />
            </div>
          )}
        </form>
        <TryPostback
          api={`${api}/try`}
          sender={view.id || 'new'}
          given={given}
          mayChange={view.mayChange}
          onPlaces={(guessed: TriedPostback['guessed']) => set({ reading: guessed })}
        />
      </div>
    </StationFrame>
  );
}
