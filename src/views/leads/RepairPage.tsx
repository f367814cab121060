import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { RepairView } from '../../core/leads/writes-view';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';
import { leadsParts } from './LeadsFrame';
import { WriteExamples } from './WriteExamples';
import { WriteLog } from './WriteLog';
import { whileWaiting } from './while-waiting';

interface Props {
  business: string;
  initial: RepairView;
}

/** Puts back into the CRM's records what they lack and their visits know. */
export function RepairPage(props: Props) {
  return (
    <Live>
      <Repair {...props} />
    </Live>
  );
}

function Repair({ business, initial }: Props) {
  const api = `/api/b/${business}/leads/repair`;
  const client = useQueryClient();
  const view = useView(api, initial, whileWaiting);
  const repair = useMutation({
    mutationFn: () => sendJson<{ records: number }>(api, {}),
    onSuccess: () => client.invalidateQueries({ queryKey: [api] }),
  });
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Repair')}
      actions={
        view.mayChange &&
        view.records > 0 &&
        view.waiting === 0 && (
          <button
            type="button"
            className="button button-strong"
            disabled={repair.isPending}
            onClick={() => repair.mutate()}
          >
            Repair {count(view.records)}
          </button>
        )
      }
    >
      <Problem text={repair.error?.message} />
      {view.records > 0 && (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2">
          <section aria-label="Causes" className="sheet p-5">
            <h2 className="text-base">Why they lack it</h2>
            <ul className="mt-2 flex flex-col gap-3">
              {view.causes.map(({ text, fix, records, goesOn }) => (
                <li key={text}>
                  <span className="font-semibold">{counted(records, 'record', 'records')}:</span> <Words text={text} />.
                  <div className={goesOn ? 'text-error' : 'text-quiet'}>
                    {goesOn
                      ? 'It still happens: the newest enquiry lost it too. '
                      : 'It did not happen to the newest enquiry. '}
                    <Words text={fix} />
                  </div>
                </li>
              ))}
            </ul>
          </section>
          <section aria-label="Preview" className="sheet p-5">
            <h2 className="text-base">What would be written</h2>
            <p className="text-quiet mt-0.5 text-[13px]">Only into fields that are empty.</p>
            <WriteExamples business={business} examples={view.examples} values={view.values} />
          </section>
        </div>
      )}
      <section aria-label="Repaired" className="mt-6">
        <h2 className="mb-2 text-base">What was repaired</h2>
        <WriteLog business={business} rows={view.log} timeZone={view.timeZone} none="Nothing yet." />
      </section>
    </StationFrame>
  );
}
