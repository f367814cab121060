import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Elsewhere } from '../../core/capture';
import { carries } from '../../core/capture/carries';
import type { ElsewhereView, ReturnedFile } from '../../core/capture/station-view';
import { count, counted } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { FileButton } from '../../ui/files/FileButton';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { Copy } from '../../ui/text/Copy';
import { sendFile } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { CaptureFrame } from './CaptureFrame';
import { PlainValues } from './PlainValues';

interface Props {
  business: string;
  initial: ElsewhereView;
  search: string;
}

/** Places outside that values follow visitors to: what each can carry, and what came back. */
export function ElsewherePage(props: Props) {
  return (
    <Live>
      <Places {...props} />
    </Live>
  );
}

function Places({ business, initial, search }: Props) {
  const view = useView(`/api/b/${business}/capture/elsewhere`, initial);
  const open = useOpen('place', search);
  return (
    <CaptureFrame
      business={business}
      section="Elsewhere"
      view={view}
      actions={view.mayChange && <NewRule words="New place" open={open} />}
    >
      <RuleStation
        business={business}
        kind="elsewhere"
        view={view}
        label="Places"
        fresh="New place"
        rules={view.rules.elsewhere}
        open={open}
        item={({ name, host }) => ({ words: name, under: <code className="value text-[12px]">{host}</code> })}
        beside={{ capture: view.rules, platforms: view.ownPlatforms }}
        title={({ name }) => name}
        beneath={({ rule, isNew, edit }) => (
          <>
            <PlainValues
              rules={view.rules}
              platforms={view.ownPlatforms}
              place={rule}
              mayChange={view.mayChange}
              onEdit={(plain) => edit({ plain })}
            />
            <Carries view={view} place={rule} isNew={isNew} />
          </>
        )}
        effect={() => <Answers business={business} view={view} />}
      />
    </CaptureFrame>
  );
}

/** What can go to a place and what came of it. */
function Carries({ view, place, isNew }: { view: ElsewhereView; place: Elsewhere; isNew: boolean }) {
  const counts = isNew ? undefined : view.counts.find(({ name }) => name === place.name);
  return (
    <>
      <ul className="border-base-300 border-t px-5 py-3">
        {carries(place, view.rules).map(({ what, holds }) => (
          <li key={what} className="flex gap-2 py-0.5">
            <span className={`w-8 shrink-0 font-semibold ${holds ? 'text-success' : 'text-error'}`}>
              {holds ? 'yes' : 'no'}
            </span>
            <span>
              <Words text={what} />
            </span>
          </li>
        ))}
      </ul>
      {counts && (
        <p className="border-base-300 border-t px-5 py-3">
          In {view.weeks} weeks{' '}
          {place.returns === 'restored'
            ? `${counted(counts.restored, 'arrival', 'arrivals')} came there with values`
            : counts.returned === 0
              ? 'no answer came back'
              : `${counted(counts.returned, 'answer', 'answers')} came back`}
          {counts.lastAt ? (
            <>
              , the last <Time iso={counts.lastAt} timeZone={view.timeZone} />.
            </>
          ) : (
            '.'
          )}
        </p>
      )}
    </>
  );
}

/** How answers of places come back that tell by themselves: their door, and a file for those that have none. */
function Answers({ business, view }: { business: string; view: ElsewhereView }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const read = useMutation({
    mutationFn: (file: File) => {
      setName(file.name);
      return sendFile<ReturnedFile>(`/api/b/${business}/capture/returned`, file);
    },
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <section className="sheet min-w-0 p-5" aria-label="Answers">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-base">Where answers go</h2>
        <Copy text={view.door} words="Copy" />
      </div>
      <code className="value mt-2 block text-[12.5px] [overflow-wrap:anywhere]">{view.door}</code>
      <p className="text-quiet mt-2">
        A place’s back end posts <code className="value">avx_to</code> there as it came, with{' '}
        <code className="value">happened_at</code> where it is told later. The signature is all it needs.
      </p>
      {view.mayChange && (
        <p className="mt-3">
          <FileButton words="Import answers" accept=".csv,.xlsx" onFile={(file) => read.mutate(file)} />
        </p>
      )}
      {read.data && (
        <div role="status" className="mt-3">
          <p>
            {name}: {counted(read.data.taken, 'answer was', 'answers were')} taken
            {read.data.refused.length > 0 && `, ${count(read.data.refused.length)} not`}.
          </p>
          <ul className="text-error mt-1">
            {read.data.refused.slice(0, 20).map(({ row, was, fix }) => (
              <li key={row}>
                {row}: {was} {fix}
              </li>
            ))}
          </ul>
        </div>
      )}
      {read.error && (
        <p role="alert" className="text-error mt-3">
          <Words text={read.error.message} />
        </p>
      )}
    </section>
  );
}
