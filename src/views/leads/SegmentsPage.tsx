import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { freshCondition, isComplete, type SegmentMeans } from '../../core/leads/segments/condition';
import { segmentPieces } from '../../core/leads/segments/sentence';
import type { SegmentEffectView, SegmentsView, SegmentView } from '../../core/leads/segments/view';
import { listed } from '../../core/listed';
import { count, counted } from '../../core/strands';
import { useOpen, type Open } from '../../ui/address/useOpen';
import { KeptBar } from '../../ui/form/KeptBar';
import { useKept } from '../../ui/form/useKept';
import { StationFrame } from '../../ui/frame/StationFrame';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { NewRule } from '../../ui/rule/RuleStation';
import { Sentence } from '../../ui/rule/RuleSentence';
import { useSettled } from '../../ui/rule/useSettled';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { leadsParts } from './LeadsFrame';

interface Props {
  business: string;
  initial: SegmentsView;
  search: string;
}

/** What somebody writes of a segment. */
interface Written {
  name: string;
  isShared: boolean;
  means: SegmentMeans;
  /** When it was last changed as it was when the writing began. */
  seen: string;
}
const fresh: Written = { name: '', isShared: true, means: { match: 'all', conditions: [freshCondition()] }, seen: '' };

/** Segments: which leads are meant, as a sentence, with who is in it while it is written. */
export function SegmentsPage(props: Props) {
  return (
    <Live>
      <Segments {...props} />
    </Live>
  );
}

function Segments({ business, initial, search }: Props) {
  const api = `/api/b/${business}/leads/segments`;
  const view = useView(api, initial);
  const open = useOpen('segment', search);
  const used = view.segments.filter(({ isRetired }) => !isRetired);
  const retired = view.segments.filter(({ isRetired }) => isRetired);
  const stored = open.isNew ? null : (view.segments.find(({ id }) => id === open.id) ?? used[0] ?? null);
  const isShown = stored !== null || open.isNew;
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Segments')}
      actions={view.mayMake && <NewRule words="New segment" open={open} />}
    >
      {isShown && (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[250px_1fr] xl:grid-cols-[250px_1fr_320px]">
          <PickList
            label="Segments"
            items={[...used, ...retired].map((one) => ({
              id: one.id,
              href: open.href(one.id),
              words: one.name,
              under: [
                one.isRetired ? 'retired' : one.isShared ? 'everybody sees it' : 'only you see it',
                one.owner && `by ${one.owner}`,
              ]
                .filter(Boolean)
                .join(', '),
            }))}
            current={stored?.id ?? ''}
            onPick={open.pick}
            fresh={open.isNew ? 'New segment' : null}
          />
          <Editor key={stored?.id ?? 'new'} business={business} api={api} view={view} stored={stored} open={open} />
        </div>
      )}
    </StationFrame>
  );
}

const writtenOf = ({ name, isShared, means, changedAt }: SegmentView): Written => ({
  name,
  isShared,
  means,
  seen: changedAt,
});

function Editor({
  business,
  api,
  view,
  stored,
  open,
}: {
  business: string;
  api: string;
  view: SegmentsView;
  stored: SegmentView | null;
  open: Open;
}) {
  const client = useQueryClient();
  const { value, set, isSaving, problem, setProblem, keep, copy } = useKept<Written>(
    `segment ${stored?.id ?? ''}`,
    api,
    open,
    view.segments.map(({ name }) => name),
  );
  const written = value ?? (stored ? writtenOf(stored) : fresh);
  const edit = (part: Partial<Written>) => set({ ...written, ...part });
  const isWhole = written.means.conditions.every(isComplete);
  const retire = useMutation({
    mutationFn: () => sendJson<SegmentsView>(`${api}/retire`, { id: stored!.id, retired: !stored!.isRetired }),
    onSuccess: (next) => {
      setProblem('');
      client.setQueryData([api], next);
    },
    onError: (error) => setProblem(error.message),
  });
  const disabled = !view.mayMake || isSaving;
  const canSave = !disabled && value !== null && isWhole && written.name.trim() !== '';
  const others = view.segments.filter(({ id, isRetired }) => id !== stored?.id && !isRetired);
  return (
    <>
      <section className="sheet" aria-label={stored?.name ?? 'New segment'}>
        <div className="px-5 pt-4">
          <input
            className="field w-full max-w-[420px] font-semibold"
            aria-label="Name"
            placeholder="What people call it"
            value={written.name}
            disabled={disabled}
            maxLength={80}
            onChange={(event) => edit({ name: event.target.value })}
          />
        </div>
        <Sentence
          className="px-5 py-4 text-[17px] leading-[1.9]"
          pieces={segmentPieces}
          rule={written.means}
          onEdit={(means) => edit({ means })}
          beside={{ segments: others.map(({ id, name }) => ({ id, name })) }}
          disabled={disabled}
          offers={view.offers}
        />
        <KeptBar
          save="Save segment"
          onSave={view.mayMake ? (canSave ? () => keep({ ...written, id: stored?.id ?? '' }) : null) : undefined}
          onUndo={value === null ? null : () => set(null)}
          onCopy={stored && view.mayMake ? (isWhole ? () => copy(written) : null) : undefined}
          problem={problem}
        >
          {view.mayMake && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox"
                checked={written.isShared}
                disabled={disabled}
                onChange={(event) => edit({ isShared: event.target.checked })}
              />
              Everybody sees it
            </label>
          )}
          {stored && view.mayMake && (
            <button type="button" className="quiet-link cursor-pointer" onClick={() => retire.mutate()}>
              {stored.isRetired ? 'Use again' : 'Retire'}
            </button>
          )}
        </KeptBar>
        {stored && stored.usedBy.length > 0 && (
          <p className="text-quiet px-5 pb-4 text-[13px]">Part of {listed(stored.usedBy)}.</p>
        )}
      </section>
      <div className="lg:col-start-2 xl:col-start-auto">
        <Effect
          business={business}
          api={api}
          id={stored?.id ?? ''}
          means={written.means}
          isChanged={value !== null}
          timeZone={view.timeZone}
        />
      </div>
    </>
  );
}

/** Who is in it now, while it is written. */
function Effect({
  business,
  api,
  id,
  means,
  isChanged,
  timeZone,
}: {
  business: string;
  api: string;
  id: string;
  means: SegmentMeans;
  isChanged: boolean;
  timeZone: string;
}) {
  const settled = useSettled(means, 250);
  const isWhole = settled.conditions.every(isComplete);
  const { data, error } = useQuery({
    queryKey: ['segment effect', api, id, JSON.stringify(settled)],
    queryFn: () => sendJson<SegmentEffectView>(`${api}/effect`, { id, means: settled }),
    enabled: isWhole,
    placeholderData: (before) => before,
  });
  if (!isWhole) return <EffectSheet heading="Not said yet" under="Finish the sentence, and who is in it is counted." />;
  if (error) return <EffectSheet heading="Not counted" under={error.message} />;
  if (!data) return <EffectSheet heading={null} />;
  return (
    <EffectSheet
      heading={`${counted(data.enquiries, 'enquiry', 'enquiries')} of ${counted(data.people, 'person', 'people')}`}
      under={data.enquiries === 0 ? 'Nobody is in it now.' : 'The newest of them:'}
    >
      <ul className="mt-2">
        {data.newest.map((one) => (
          <li key={one.id} className="border-base-300 border-b py-1.5 text-[13px] last:border-0">
            <a href={`/b/${business}/leads/${one.id}`} className="quiet-link font-semibold">
              {one.company}
            </a>
            <span className="text-quiet block">
              {one.cameFrom}, <Time iso={one.at} timeZone={timeZone} />
            </span>
          </li>
        ))}
      </ul>
      {id !== '' && data.enquiries > 0 && !isChanged && (
        <a href={`/b/${business}/leads?segment=${id}`} className="button mt-3">
          Open {count(data.enquiries)} in Leads
        </a>
      )}
    </EffectSheet>
  );
}
