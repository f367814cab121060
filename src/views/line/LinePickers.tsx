import { useState } from 'react';
import { counted, lineViews, type LineView } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import { shownQuery } from '../../ui/line/addresses';
import { Combobox } from '../../ui/pick/Combobox';

/** Whose line is shown: each way in has its own, in the same days. */
export function WayPicker({ line, business }: { line: LineView; business: string }) {
  return (
    <nav aria-label="Way in" className="flex gap-5">
      {line.ways.map((way) => (
        <a
          key={way}
          href={`/b/${business}?${new URLSearchParams(shownQuery({ ...line, way }))}`}
          aria-current={way === line.way ? 'true' : undefined}
          className={pickedOrNot(way === line.way)}
        >
          {waysIn[way].words}
        </a>
      ))}
    </nav>
  );
}

const viewWords: Record<LineView['view'], string> = {
  followed: 'These days’ clicks, followed to today',
  happened: 'What happened in these days',
};

/** Whether the clicks of these days are followed, or each hop counts what happened at it. */
export function ViewPicker({ line, business }: { line: LineView; business: string }) {
  return (
    <nav aria-label="View" className="flex gap-5">
      {lineViews.map((view) => (
        <a
          key={view}
          href={`/b/${business}?${new URLSearchParams(shownQuery({ ...line, view }))}`}
          aria-current={view === line.view ? 'true' : undefined}
          className={pickedOrNot(view === line.view)}
        >
          {viewWords[view]}
        </a>
      ))}
    </nav>
  );
}

const pickedOrNot = (isPicked: boolean) =>
  isPicked ? 'font-semibold underline decoration-2 underline-offset-4' : 'text-hero-quiet hover:underline';

/** What the line is narrowed to: a platform, a campaign, a segment. */
export function Narrowed({ line, business }: { line: LineView; business: string }) {
  const go = (change: Partial<Pick<LineView, 'platform' | 'campaign' | 'segment'>>) =>
    location.assign(`/b/${business}?${new URLSearchParams(shownQuery({ ...line, ...change }))}`);
  return (
    <div className="flex flex-wrap gap-2">
      <OneOf
        label="Platform"
        none="every platform"
        value={line.platform}
        choices={line.platforms}
        onChange={(platform) => go({ platform })}
      />
      <CampaignPicker line={line} onChange={(campaign) => go({ campaign })} />
      <OneOf
        label="Segment"
        none="every lead"
        value={line.segment}
        choices={line.segments}
        onChange={(segment) => go({ segment })}
      />
    </div>
  );
}

const picker = 'border-hero-line text-hero-ink bg-hero truncate rounded border px-2 py-0.5';

function OneOf({
  label,
  none,
  value,
  choices,
  onChange,
}: {
  label: string;
  none: string;
  value: string;
  choices: { id: string; name: string }[];
  onChange: (value: string) => void;
}) {
  if (choices.length === 0) return null;
  return (
    <select
      aria-label={label}
      className={`${picker} w-38`}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      <option value="">{none}</option>
      {choices.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** Campaigns are found by their names while typing; what is none of them changes nothing. */
function CampaignPicker({ line, onChange }: { line: LineView; onChange: (campaign: string) => void }) {
  const [typed, setTyped] = useState(line.campaign);
  if (line.campaigns.length === 0 && line.campaign === '') return null;
  const done = (campaign: string) => {
    const isOne = campaign === '' || line.campaigns.some((one) => one.campaign === campaign);
    if (!isOne) setTyped(line.campaign);
    else if (campaign !== line.campaign) onChange(campaign);
  };
  return (
    <Combobox
      label="Campaign"
      className={`${picker} placeholder:text-hero-ink w-68`}
      placeholder="every campaign"
      isValue={typed !== ''}
      value={typed}
      choices={line.campaigns.map(({ campaign, name, strands }) => ({
        value: campaign,
        label: [name, counted(strands, 'click', 'clicks')].filter(Boolean).join(', '),
      }))}
      onChange={setTyped}
      onDone={done}
    />
  );
}
