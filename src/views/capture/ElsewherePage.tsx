import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Elsewhere } from '../../core/capture';
import { carries } from '../../core/capture/carries';
import type { ElsewhereView, ReturnedFile } from '../../core/capture/station-view';
import { elsewhere } from '../../core/rules/elsewhere';
import { count, counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { Key } from '../../ui/keys/Key';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { TakeOut } from '../../ui/rule/TakeOut';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { Copy } from '../../ui/text/Copy';
import { sendFile } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { CaptureFrame } from './CaptureFrame';

interface Props {
  business: string;
  initial: ElsewhereView;
  search: string;
}

const isNew = 'new';

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
  const [named, setNamed] = useAddressPart('place', search);
  const places = view.rules.elsewhere;
  const name = named || (places[0]?.name ?? isNew);
  const stored = places.find((place) => place.name === name) ?? null;
  return (
    <CaptureFrame
      business={business}
      section="Elsewhere"
      view={view}
      actions={
        view.mayChange && (
          <button type="button" className="button button-strong" data-new onClick={() => setNamed(isNew)}>
            New place <Key k="n" strong />
          </button>
        )
      }
    >
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[250px_1fr] xl:grid-cols-[250px_1fr_330px]">
        <PickList
          label="Places"
          items={places.map((place) => ({
            id: place.name,
            href: `?place=${encodeURIComponent(place.name)}`,
            words: place.name,
            under: <code className="value text-[12px]">{place.host}</code>,
          }))}
          current={name}
          onPick={setNamed}
          fresh={stored ? null : 'New place'}
        />
        <PlaceEditor key={name} business={business} view={view} stored={stored} onNamed={setNamed} />
        <Answers business={business} view={view} />
      </div>
    </CaptureFrame>
  );
}

function PlaceEditor({
  business,
  view,
  stored,
  onNamed,
}: {
  business: string;
  view: ElsewhereView;
  stored: Elsewhere | null;
  onNamed: (name: string) => void;
}) {
  const { rule, setRule, bar } = useRuleEditor({
    ...{ business, kind: 'elsewhere' as const, stored, start: elsewhere.start!({}, []), changed: view.changed },
  });
  const counts = view.counts.find(({ name }) => name === stored?.name);
  return (
    <section className="sheet min-w-0" aria-label={stored?.name ?? 'New place'}>
      <RuleSentence
        kind="elsewhere"
        rule={rule}
        onEdit={setRule}
        beside={{ capture: view.rules }}
        disabled={!view.mayChange}
        isNew={stored === null}
      />
      <ul className="border-base-300 border-t px-5 py-3">
        {carries(rule, view.rules).map(({ what, holds }) => (
          <li key={what} className="flex gap-2 py-0.5">
            <span className={`w-8 shrink-0 font-semibold ${holds ? 'text-success' : 'text-error'}`}>
              {holds ? 'yes' : 'no'}
            </span>
            <Words text={what} />
          </li>
        ))}
      </ul>
      {counts && (
        <p className="border-base-300 border-t px-5 py-3">
          In {view.weeks} weeks{' '}
          {rule.returns === 'restored'
            ? `${counted(counts.restored, 'arrival', 'arrivals')} came there with values`
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
      {view.mayChange && <DraftBar {...bar} onDone={() => onNamed(rule.name)} />}
      {view.mayChange && stored && (
        <TakeOut business={business} name={{ kind: 'elsewhere', id: stored.name }} onDone={() => onNamed('')} />
      )}
    </section>
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
    <section className="sheet min-w-0 p-5 lg:col-start-2 xl:col-start-3" aria-label="Answers">
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
          <FileButton words="Read a file of answers" accept=".csv,.xlsx" onFile={(file) => read.mutate(file)} />
        </p>
      )}
      {read.data && (
        <div role="status" className="mt-3">
          <p>
            {name}: {counted(read.data.taken, 'answer was', 'answers were')} taken
            {read.data.refused.length > 0 && `, ${count(read.data.refused.length)} not`}.
          </p>
          <ul className="text-error mt-1">
            {read.data.refused.slice(0, 20).map(({ row, was, wants }) => (
              <li key={row}>
                {row}: {was} {wants}
              </li>
            ))}
          </ul>
        </div>
      )}
      {read.error && (
        <p role="alert" className="text-error mt-3">
          {read.error.message}
        </p>
      )}
    </section>
  );
}
