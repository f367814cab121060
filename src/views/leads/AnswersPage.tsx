import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { minuteWords, type AnswerTimes } from '../../core/leads/answer-times';
import { answerWeeks, type AnswersView, type CampaignQuality } from '../../core/leads/answers-view';
import { qualities, qualityWords } from '../../core/leads/quality';
import type { WorkingHours } from '../../core/leads/working-hours';
import { count } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { Select } from '../../ui/form/rows';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { leadsParts } from './LeadsFrame';
import { Narrowing } from './Narrowing';

interface Props {
  business: string;
  initial: AnswersView;
}

/** How fast enquiries are answered, by source, person and hour of day, and what became of them by campaign. */
export function AnswersPage(props: Props) {
  return (
    <Live>
      <Answers {...props} />
    </Live>
  );
}

function Answers({ business, initial }: Props) {
  const api = `/api/b/${business}/leads/answers`;
  const query = new URLSearchParams({ weeks: String(initial.weeks), segment: initial.segment });
  const view = useView(`${api}?${query}`, initial);
  const here = `/b/${business}/leads/answers`;
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Answers')}
      actions={
        <nav aria-label="Range" className="flex gap-3">
          {answerWeeks.map((weeks) => (
            <a
              key={weeks}
              href={`${here}?${new URLSearchParams({ weeks: String(weeks), ...(view.segment ? { segment: view.segment } : {}) })}`}
              className={weeks === view.weeks ? 'font-semibold underline underline-offset-4' : 'quiet-link'}
              aria-current={weeks === view.weeks ? 'true' : undefined}
            >
              {weeks === 1 ? '1 week' : `${weeks} weeks`}
            </a>
          ))}
        </nav>
      }
    >
      {view.lookedAt !== null && (
        <p className="text-quiet mb-3">Of the newest {count(view.lookedAt)} enquiries of these weeks.</p>
      )}
      <Narrowing
        business={business}
        view={view}
        search={`?weeks=${view.weeks}&segment=${view.segment}`}
        path="/leads/answers"
      />
      <Hours api={api} view={view} />
      <div className="mt-5 grid grid-cols-1 items-start gap-5 xl:grid-cols-2">
        <Times heading="First answer by source" first="Source" rows={view.bySource} />
        <div className="grid gap-5">
          <Times heading="By who answered" first="Person" rows={view.byPerson} isAnsweredOnly />
          <Times
            heading="By the hour at which people enquired"
            first="Hour"
            rows={view.byHour}
            format={(key) => `${key}:00`}
          />
        </div>
      </div>
      <Campaigns business={business} rows={view.byCampaign} />
    </StationFrame>
  );
}

const minutes = (value: number | null) =>
  value === null ? <span className="text-quiet">none yet</span> : minuteWords(value);

/** Median and ninetieth percentile of the time to the first answer, a row a group. */
function Times({
  heading,
  first,
  rows,
  format = (key) => key,
  isAnsweredOnly = false,
}: {
  heading: string;
  first: string;
  rows: AnswerTimes[];
  format?: (key: string) => string;
  isAnsweredOnly?: boolean;
}) {
  const columns: Column<AnswerTimes>[] = [
    { id: 'key', head: first, by: ({ key }) => key, cell: ({ key }) => format(key) },
    {
      id: 'enquiries',
      head: isAnsweredOnly ? 'Answered' : 'Enquiries',
      right: true,
      by: ({ enquiries }) => enquiries,
      cell: ({ enquiries }) => count(enquiries),
    },
    {
      id: 'median',
      className: 'whitespace-nowrap',
      head: 'Half within',
      right: true,
      by: ({ median }) => median,
      cell: ({ median }) => minutes(median),
    },
    {
      id: 'slow',
      head: 'Nine of ten within',
      className: 'whitespace-nowrap',
      right: true,
      by: ({ slow }) => slow,
      cell: ({ slow }) => minutes(slow),
    },
    ...(isAnsweredOnly
      ? []
      : [
          {
            id: 'waiting',
            head: 'Unanswered',
            right: true,
            by: ({ waiting }: AnswerTimes) => waiting,
            cell: ({ waiting }: AnswerTimes) => count(waiting),
          },
        ]),
  ];
  return (
    <div>
      <h2 className="mb-2 text-base">{heading}</h2>
      <DataTable
        label={heading}
        rows={rows}
        idOf={({ key }) => key}
        columns={columns}
        none="No enquiry in these weeks."
      />
    </div>
  );
}

/** What became of the enquiries of each campaign, what was no enquiry among them. */
function Campaigns({ business, rows }: { business: string; rows: CampaignQuality[] }) {
  const columns: Column<CampaignQuality>[] = [
    {
      id: 'campaign',
      head: 'Campaign',
      by: ({ campaign }) => campaign,
      cell: ({ campaign }) =>
        campaign ? (
          <a className="quiet-link" href={`/b/${business}/leads?find=${encodeURIComponent(campaign)}`}>
            <code className="value [overflow-wrap:anywhere]">{campaign}</code>
          </a>
        ) : (
          <span className="text-quiet">no value</span>
        ),
    },
    {
      id: 'enquiries',
      head: 'All',
      right: true,
      by: ({ enquiries }) => enquiries,
      cell: ({ enquiries }) => count(enquiries),
    },
    ...qualities.map((quality): Column<CampaignQuality> => ({
      id: quality,
      head: qualityWords[quality].replace(/^./, (letter) => letter.toUpperCase()),
      right: true,
      by: ({ of }) => of[quality],
      cell: ({ of }) => (of[quality] === 0 ? <span className="text-quiet">0</span> : count(of[quality])),
    })),
  ];
  return (
    <div className="mt-5">
      <h2 className="mb-2 text-base">What became of them, by campaign</h2>
      <DataTable
        label="Quality by campaign"
        rows={rows}
        idOf={({ campaign }) => campaign}
        columns={columns}
        none="No enquiry in these weeks."
      />
    </div>
  );
}

/** Every half hour of a day, to its end. */
const times = Array.from({ length: 49 }, (_, n) => `${String(n >> 1).padStart(2, '0')}:${n % 2 === 0 ? '00' : '30'}`);
const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** When the business answers: only that time counts as waiting. */
function Hours({ api, view }: { api: string; view: AnswersView }) {
  const client = useQueryClient();
  const [hours, setHours] = useState<WorkingHours>(view.hours);
  const save = useMutation({
    mutationFn: () => sendJson(`${api}/hours`, hours),
    onSuccess: () => client.invalidateQueries(),
  });
  const isChanged = JSON.stringify(hours) !== JSON.stringify(view.hours);
  const toggle = (day: number) =>
    setHours({
      ...hours,
      days: (hours.days.includes(day) ? hours.days.filter((one) => one !== day) : [...hours.days, day]).sort(),
    });
  const time = (label: string, name: 'from' | 'to') => (
    <Select
      label={label}
      className="value w-auto"
      value={hours[name]}
      options={times.map((one) => [one, one] as const)}
      disabled={!view.mayChange}
      onChange={(value) => setHours({ ...hours, [name]: value })}
    />
  );
  return (
    <form
      className="sheet flex flex-wrap items-center gap-x-3 gap-y-2 px-5 py-3"
      aria-label="Working hours"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <span>Waiting counts on</span>
      {dayNames.map((name, n) => (
        <label key={name} className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={hours.days.includes(n + 1)}
            disabled={!view.mayChange}
            onChange={() => toggle(n + 1)}
          />
          {name}
        </label>
      ))}
      <span>from</span>
      {time('Answers from', 'from')}
      <span>to</span>
      {time('Answers until', 'to')}
      <span className="text-quiet">({view.timeZone})</span>
      {view.mayChange && isChanged && (
        <button className="button button-strong" disabled={save.isPending}>
          Save hours
        </button>
      )}
      <Problem text={save.error?.message} />
    </form>
  );
}
