import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { dimensionWords } from '../../core/results/dimensions';
import { behindAddress } from '../../core/results/behind-address';
import { askedOf, askedQuery, figuresPieces, settled, type AskedFigures } from '../../core/results/figures-sentence';
import type { FiguresView } from '../../core/results/figures-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { FindField } from '../../ui/list/FindField';
import { Pages } from '../../ui/list/Pages';
import { useListState } from '../../ui/list/useListState';
import { Live, pageRead } from '../../ui/live/Live';
import { readFollowed } from '../../ui/live/readFollowed';
import { Sentence } from '../../ui/rule/RuleSentence';
import { DayNotes } from './DayNotes';
import { FiguresChart } from './FiguresChart';
import { FiguresTable } from './FiguresTable';
import { OwnDays } from './OwnDays';
import { SavedViews } from './SavedViews';
import { ShownDays } from './ShownDays';
import { resultsParts } from './ResultsFrame';

interface Props {
  business: string;
  initial: FiguresView;
  /** Query of the page at its first drawing. */
  search: string;
}

/** What was counted and what it brought, by a sentence that says what to count. */
export function FiguresPage(props: Props) {
  return (
    <Live>
      <Figures {...props} />
    </Live>
  );
}

function Figures({ business, initial, search }: Props) {
  const api = `/api/b/${business}/results/figures`;
  const [asked, setAsked] = useState<AskedFigures>(() => askedOf(initial));
  const own = new URLSearchParams(askedQuery(asked));
  // How the list stands at first; then it says itself.
  const given = new URLSearchParams(search);
  for (const name of ['find', 'sort', 'descending', 'page']) if (given.has(name)) own.set(name, given.get(name)!);
  const [state, change] = useListState(`?${own}`, '');
  const [begun] = useState(state.query);
  const [progress, setProgress] = useState(initial.working);
  const { data, isPlaceholderData } = useQuery({
    queryKey: [api, state.query],
    queryFn: ({ signal }) => {
      // How far others were says nothing of these.
      setProgress(null);
      return readFollowed<FiguresView>(api, state.query, setProgress, signal);
    },
    ...(state.query === begun && !initial.working ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    meta: pageRead,
  });
  const view = data ?? initial;
  const isBusy = isPlaceholderData || view.working !== null;
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Figures')}
      actions={
        <div className="flex flex-wrap items-center justify-end gap-2 whitespace-nowrap">
          <FindField
            what="a value in these rows"
            width="w-[210px]"
            value={state.find}
            onFind={(find) => change({ find, page: 1 })}
          />
          <a href={`${api}.csv?${state.query}`} className="button" download>
            Export CSV
          </a>
          <a href={`${api}.xlsx?${state.query}`} className="button" download>
            Export XLSX
          </a>
        </div>
      }
    >
      <SavedViews
        business={business}
        kind="figures"
        initial={initial.saved}
        query={state.query}
        mayChange={initial.mayChange}
      />
      <Sentence
        pieces={figuresPieces(view)}
        className="text-[17px] leading-[1.9]"
        rule={asked}
        onEdit={(next) => {
          setAsked(settled(next));
          change({ page: 1 });
        }}
        beside={{}}
        disabled={false}
      />
      {asked.range === 'own' && <OwnDays days={asked} onChange={(days) => setAsked({ ...asked, ...days })} />}
      <ShownDays
        range={view.range}
        before={view.before}
        also={`by ${view.by.map(dimensionWords).join(', ')}`}
        isBusy={isBusy}
        progress={progress}
      />
      {!view.working && <FiguresChart view={view} />}
      <DayNotes business={business} notes={view.dayNotes} lastDay={view.range.lastDay} mayChange={view.mayChange} />
      {!view.working && (
        <FiguresTable
          view={view}
          behind={(of, row) => `/b/${business}/results/${behindAddress(askedQuery(asked), of, row)}`}
          sorting={{ by: state.sort, descending: state.descending }}
          onSort={({ by, descending }) => change({ sort: by, descending, page: 1 })}
          found={state.find}
          isBusy={isBusy}
        />
      )}
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
      {view.notes.map((note) => (
        <p key={note} className="text-quiet mt-3">
          {note}
        </p>
      ))}
    </StationFrame>
  );
}
