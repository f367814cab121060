import { useState } from 'react';
import { capital } from '../../core/capital';
import { dimensionWords } from '../../core/results/dimensions';
import { figureText } from '../../core/results/figure-text';
import type { FunnelBehind, FunnelRowView, FunnelView } from '../../core/results/funnel-view';
import { askedFunnel, funnelAddress, funnelPieces, shareWords } from '../../core/results/funnel-words';
import { count } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { Sentence } from '../../ui/rule/RuleSentence';
import { FunnelFigure } from './FunnelFigure';
import { OwnDays } from './OwnDays';
import { resultsParts } from './ResultsFrame';
import { SavedViews } from './SavedViews';
import { ShownDays } from './ShownDays';
import { useResult } from './useResult';

interface Props {
  business: string;
  initial: FunnelView;
}

/** How many of those who began went on, step by step, and where the others went instead. */
export function FunnelPage(props: Props) {
  return (
    <Live>
      <Funnel {...props} />
    </Live>
  );
}

function Funnel({ business, initial }: Props) {
  const api = `/api/b/${business}/results/funnel`;
  const [asked, setAsked] = useState(() => askedFunnel(initial));
  const { view, query, isBusy } = useResult(api, funnelAddress(asked), initial);
  const behind = (step: number, end: FunnelBehind['end'], cell?: string) => {
    const of = { step: String(step), end, ...(cell === undefined ? {} : { cell }) };
    return `/b/${business}/results/funnel/behind?${query}&${new URLSearchParams(of)}`;
  };
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Funnel')}
      actions={
        <a href={`${api}.csv?${query}`} className="button" download>
          Export CSV
        </a>
      }
    >
      <SavedViews
        business={business}
        kind="funnel"
        initial={initial.saved}
        query={query}
        mayChange={initial.mayChange}
      />
      <Sentence
        pieces={funnelPieces(view)}
        className="text-[17px] leading-[1.9]"
        rule={asked}
        onEdit={setAsked}
        beside={{}}
        offers={{ paths: view.offers.paths }}
        disabled={false}
      />
      {asked.range === 'own' && <OwnDays days={asked} onChange={(days) => setAsked({ ...asked, ...days })} />}
      <ShownDays range={view.range} isBusy={isBusy} />
      {view.problems.map((problem) => (
        <p key={problem} role="alert" className="text-error mt-1">
          {problem}
        </p>
      ))}
      <div className={`mt-1.5 ${isBusy ? 'opacity-60' : ''}`} aria-busy={isBusy}>
        <FunnelFigure
          view={view}
          skips={asked.steps.map(({ skip }) => skip)}
          behind={behind}
          onSkip={(step, skip) =>
            setAsked({ ...asked, steps: asked.steps.map((one, i) => (i === step ? { ...one, skip } : one)) })
          }
        />
        {view.worth !== null && view.steps.length > 0 && (
          <p className="mt-3">
            Those who came to the end brought{' '}
            <strong className="value">{figureText('profit', view.worth, view.currency)}</strong> since then.
          </p>
        )}
        {view.asked.by !== '' && (
          <div className="mt-4">
            <ByWhat view={view} by={view.asked.by} behind={behind} />
          </div>
        )}
      </div>
    </StationFrame>
  );
}

/** The same for each that brought people. */
function ByWhat({
  view: { steps, rows, currency, seesMoney },
  by,
  behind,
}: {
  view: FunnelView;
  by: Exclude<FunnelView['asked']['by'], ''>;
  behind: (step: number, end: FunnelBehind['end'], cell: string) => string;
}) {
  const last = steps.length - 1;
  const columns: Column<FunnelRowView>[] = [
    {
      id: 'cell',
      head: capital(dimensionWords(by)),
      by: ({ text }) => text,
      cell: ({ text, isValue }) => (isValue ? <code className="value [overflow-wrap:anywhere]">{text}</code> : text),
    },
    ...steps.map((_, step): Column<FunnelRowView> => ({
      id: `step${step}`,
      head: step === last && last > 0 ? 'To the end' : `Step ${step + 1}`,
      right: true,
      by: ({ made }) => made[step] ?? 0,
      cell: ({ made, cell }) => (
        <a href={behind(step, 'made', cell)} className="hover:underline">
          {count(made[step] ?? 0)}
        </a>
      ),
    })),
    {
      id: 'share',
      head: 'Of those who began',
      right: true,
      by: ({ made }) => shareOf(made),
      cell: ({ made }) => shareWords(shareOf(made)),
    },
    ...(seesMoney
      ? [
          {
            id: 'worth',
            head: 'Worth',
            right: true,
            by: ({ worth }: FunnelRowView) => worth,
            cell: ({ worth }: FunnelRowView) => figureText('profit', worth ?? 0, currency),
          },
        ]
      : []),
  ];
  return (
    <DataTable
      label={`By ${dimensionWords(by)}`}
      rows={rows}
      idOf={({ cell }) => cell}
      columns={columns}
      start={{ by: 'step0', descending: true }}
      none="Nobody began in these days."
    />
  );
}

const shareOf = (made: readonly number[]): number => (made[0] ? (made.at(-1) ?? 0) / made[0] : 0);
