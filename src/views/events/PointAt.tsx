import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { lastsWords } from '../../core/events/pointed';
import type { PointingView } from '../../core/events/pointing';
import type { Cue, EventRule } from '../../core/events/schema';
import type { EventsView } from '../../core/events/view';
import { freshCue, lacksText, usualOnceFor } from '../../core/events/words';
import { cueWords } from '../../core/rules/cue';
import { count, counted } from '../../core/strands';
import { useAddressPart } from '../../ui/address/useAddressPart';
import { Problem } from '../../ui/form/Problem';
import { Combobox } from '../../ui/pick/Combobox';
import { readJson, sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

type Found = PointingView['candidates'][number];
const cueOf = ({ kind, text }: Found): Cue => ({ ...freshCue(kind), text });
const readAgainAfter = 1000;

/** Has somebody point at what is to count on their own website; the cue that lasts longest is taken. */
export function PointAt({
  business,
  view,
  search,
  rule,
  edit,
}: {
  business: string;
  view: EventsView;
  search: string;
  rule: EventRule;
  edit: (part: Partial<EventRule>) => void;
}) {
  const api = `/api/b/${business}/events/point`;
  const [page, setPage] = useState('/');
  // In the address, so that what was begun is found again after a reload.
  const [id, setId] = useAddressPart('point', search);
  const [isOpen, setOpen] = useState(id !== '');
  const begin = useMutation({
    async mutationFn(tab: Window | null) {
      const begun = await sendJson<{ id: string; link: string }>(api, { page });
      if (tab) tab.location.href = begun.link;
      setId(begun.id);
      return { ...begun, isShown: tab !== null };
    },
    onError: (_error, tab) => tab?.close(),
  });
  const { data } = useQuery({
    queryKey: [api, id],
    queryFn: () => readJson<PointingView>(`${api}/${id}`),
    enabled: id !== '',
    refetchInterval: ({ state }) => (/^(chosen|ended)$/.test(state.data?.state ?? '') ? false : readAgainAfter),
  });

  const chosen = data?.state === 'chosen' ? data : null;
  /** Where the sentence has what was chosen, in whichever way; -1 where it has not. */
  const placeOf = ({ candidates }: PointingView) =>
    rule.cues.findIndex((cue) => candidates.some(({ kind, text }) => kind === cue.kind && text === cue.text));
  /** Puts a cue in place of another way to say it, or of one that waits for nothing yet, or beside the others. */
  const take = (view: PointingView, found: Found) => {
    const [known, empty] = [placeOf(view), rule.cues.findIndex(lacksText)];
    const at = known >= 0 ? known : empty >= 0 ? empty : rule.cues.length;
    const cues = rule.cues.toSpliced(at, 1, cueOf(found));
    const usual = rule.cues[0] && usualOnceFor(rule.cues[0].kind);
    edit({ cues, ...(at === 0 && rule.onceFor === usual ? { onceFor: usualOnceFor(cues[0]!.kind) } : {}) });
  };
  useEffect(() => {
    if (chosen && placeOf(chosen) < 0) take(chosen, chosen.candidates[0]!);
    // It is taken once, when it comes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chosen]);

  const start = () => {
    // Opened by the press itself, so that the browser lets it; the website learns nothing of this page.
    const tab = window.open('', '_blank');
    if (tab) tab.opener = null;
    begin.mutate(tab);
  };
  if (!isOpen)
    return (
      <p className="border-base-300 border-t px-5 py-3">
        <button type="button" className="button" onClick={() => setOpen(true)}>
          Point at it on the website
        </button>
      </p>
    );
  return (
    <section className="border-base-300 border-t px-5 py-3" aria-label="Point at it">
      <div className="flex flex-wrap items-end gap-2">
        <label className="min-w-0 grow sm:max-w-80">
          <span className="text-quiet block text-[12.5px]">The page where it is</span>
          <Combobox
            label="The page where it is"
            value={page}
            choices={view.offers.paths.map((value) => ({ value }))}
            onChange={setPage}
          />
        </label>
        <button type="button" className="button" disabled={begin.isPending} onClick={start}>
          {id ? 'Open it again' : 'Open it and point'}
        </button>
      </div>
      <Problem text={begin.error?.message} />
      {begin.data && !begin.data.isShown && (
        <p className="mt-2">
          Your browser opened no tab.{' '}
          <a className="quiet-link" href={begin.data.link} target="_blank" rel="noreferrer">
            Open the page yourself
          </a>
        </p>
      )}
      <div role="status" className="mt-2">
        {data?.state === 'waits' && <p className="text-quiet">Waiting for the page to open …</p>}
        {data?.state === 'points' && <p>Press what is to count in the other tab. A press chooses it.</p>}
        {data?.state === 'ended' && <p>Pointing has ended without a choice.</p>}
        {chosen && <Ways rule={rule} view={chosen} onTake={(found) => take(chosen, found)} />}
      </div>
    </section>
  );
}

/** The ways to say what was pointed at; the first is taken already. */
function Ways({ rule, view, onTake }: { rule: EventRule; view: PointingView; onTake: (found: Found) => void }) {
  return (
    <ul className="divide-base-300 divide-y" aria-label="Ways to say it">
      {view.candidates.map((found) => {
        const isTaken = rule.cues.some(({ kind, text }) => kind === found.kind && text === found.text);
        return (
          <li key={`${found.kind} ${found.text}`} className="flex items-baseline justify-between gap-3 py-1.5">
            <span className="min-w-0">
              <Words text={cueWords(cueOf(found))} />
              <span className="text-quiet block text-[12.5px]">
                {[...countsOf(found), lastsWords[found.lasts]].join(' · ')}
              </span>
            </span>
            {isTaken ? (
              <span className="shrink-0 text-[13px]">taken</span>
            ) : (
              <button type="button" className="button shrink-0" onClick={() => onTake(found)}>
                Use this
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}

const countsOf = ({ here, elsewhere }: Found): string[] => [
  here === 1 ? 'the only one on its page' : `${count(here)} on its page`,
  ...(elsewhere
    ? [
        elsewhere.presses === 0
          ? 'not pressed in 8 weeks'
          : `pressed ${counted(elsewhere.presses, 'time', 'times')} in 8 weeks${elsewhere.pages > 0 ? `, also on ${counted(elsewhere.pages, 'other page', 'other pages')}` : ''}`,
      ]
    : []),
];
