import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { dimensionWords } from '../../core/results/dimensions';
import { askedOf, askedQuery, figuresPieces, settled, type AskedFigures } from '../../core/results/figures-sentence';
import type { FiguresView } from '../../core/results/figures-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { FindField } from '../../ui/list/FindField';
import { Pages } from '../../ui/list/Pages';
import { useListState } from '../../ui/list/useListState';
import { Live, pageRead } from '../../ui/live/Live';
import { Sentence } from '../../ui/rule/RuleSentence';
import { readJson } from '../../ui/text/read';
import { dayWords } from '../../ui/text/time';
import { DayNotes } from './DayNotes';
import { FiguresChart } from './FiguresChart';
import { FiguresTable } from './FiguresTable';
import { SavedViews } from './SavedViews';
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
  const { data, isPlaceholderData } = useQuery({
    queryKey: [api, state.query],
    queryFn: () => readJson<FiguresView>(`${api}?${state.query}`),
    ...(state.query === begun ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    meta: pageRead,
  });
  const view = data ?? initial;
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
      <SavedViews business={business} initial={initial.saved} query={state.query} mayChange={initial.mayChange} />
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
      {asked.range === 'own' && <OwnDays asked={asked} onChange={(days) => setAsked({ ...asked, ...days })} />}
      <p className="text-quiet min-h-6 text-[13px]" aria-live="polite">
        {isPlaceholderData ? <Waiting view={view} /> : <Days view={view} />}
      </p>
      <FiguresChart view={view} />
      <DayNotes business={business} notes={view.dayNotes} lastDay={view.range.lastDay} mayChange={view.mayChange} />
      <FiguresTable
        view={view}
        behind={(of, row) =>
          `/b/${business}/results/behind?${new URLSearchParams({ ...askedQuery(asked), of, ...(row === null ? {} : { row }) })}`
        }
        sorting={{ by: state.sort, descending: state.descending }}
        onSort={({ by, descending }) => change({ sort: by, descending, page: 1 })}
        found={state.find}
        isBusy={isPlaceholderData}
      />
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
      {view.notes.map((note) => (
        <p key={note} className="text-quiet mt-3">
          {note}
        </p>
      ))}
    </StationFrame>
  );
}

/** The days that are shown, and those that they are held against. */
function Days({ view: { range, before, by } }: { view: FiguresView }) {
  const days = (one: { firstDay: string; lastDay: string }) => `${dayWords(one.firstDay)} to ${dayWords(one.lastDay)}`;
  return (
    <>
      {days(range)}
      {before && `, against ${days(before)}`}
      {`, by ${by.map(dimensionWords).join(', ')}.`}
    </>
  );
}

const slow = 500;
/** Said once it takes a while. */
function Waiting({ view }: { view: FiguresView }) {
  const [isSlow, setSlow] = useState(false);
  useEffect(() => {
    const wait = setTimeout(() => setSlow(true), slow);
    return () => clearTimeout(wait);
  }, []);
  return isSlow ? <>Working it out …</> : <Days view={view} />;
}

/** The first and the last of the days that somebody chooses; taken once both are there. */
function OwnDays({
  asked,
  onChange,
}: {
  asked: AskedFigures;
  onChange: (days: Pick<AskedFigures, 'from' | 'to'>) => void;
}) {
  const [days, setDays] = useState({ from: asked.from, to: asked.to });
  const take = (next: typeof days) => {
    setDays(next);
    if (next.from !== '' && next.to !== '') onChange(next);
  };
  const field = (label: string, name: 'from' | 'to') => (
    <label className="flex items-center gap-2">
      {label}
      <input
        type="date"
        className="field w-auto"
        required
        value={days[name]}
        onChange={({ target }) => take({ ...days, [name]: target.value })}
      />
    </label>
  );
  return (
    <div className="mt-1 flex flex-wrap gap-4">
      {field('from', 'from')}
      {field('to', 'to')}
    </div>
  );
}
