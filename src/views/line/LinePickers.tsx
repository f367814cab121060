import { useState } from 'react';
import { counted, lineViews, type LineView } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import { shownQuery, type Shown } from '../../ui/line/addresses';
import { Combobox } from '../../ui/pick/Combobox';
import { LeadingSelect } from '../../ui/pick/LeadingSelect';

interface Props {
  line: LineView;
  business: string;
}

const viewWords: Record<LineView['view'], string> = {
  followed: 'These days’ clicks, followed to today',
  happened: 'What happened in these days',
};

/** Whose line is shown: each way in has its own, in the same days. */
export const WayPicker = ({ line, business }: Props) => (
  <Choices
    label="Way in"
    choices={line.ways.map((way) => ({
      words: waysIn[way].words,
      isCurrent: way === line.way,
      // Another way in comes to other outcomes.
      shown: { ...line, way, outcome: '' },
    }))}
    business={business}
  />
);

/** Whether the clicks of these days are followed, or each hop counts what happened at it. */
export const ViewPicker = ({ line, business }: Props) => (
  <Choices
    label="View"
    choices={lineViews.map((view) => ({
      words: viewWords[view],
      isCurrent: view === line.view,
      shown: { ...line, view },
    }))}
    business={business}
  />
);

/** Lines that can be shown instead, each an address. */
function Choices({
  label,
  choices,
  business,
}: {
  label: string;
  choices: { words: string; isCurrent: boolean; shown: Shown }[];
  business: string;
}) {
  return (
    <nav aria-label={label} className="flex gap-5">
      {choices.map(({ words, isCurrent, shown }) => (
        <a
          key={words}
          href={`/b/${business}?${new URLSearchParams(shownQuery(shown))}`}
          aria-current={isCurrent ? 'true' : undefined}
          className={
            isCurrent ? 'font-semibold underline decoration-2 underline-offset-4' : 'text-hero-quiet hover:underline'
          }
        >
          {words}
        </a>
      ))}
    </nav>
  );
}

/** What the line is narrowed to: a platform, a campaign, a segment, an outcome. */
export function Narrowed({ line, business }: Props) {
  const go = (change: Partial<Pick<LineView, 'platform' | 'campaign' | 'segment' | 'outcome'>>) =>
    location.assign(`/b/${business}?${new URLSearchParams(shownQuery({ ...line, ...change }))}`);
  return (
    <div className="flex flex-wrap gap-2">
      {oneOf('Platform', 'every platform', line.platform, line.platforms, (platform) => go({ platform }))}
      <CampaignPicker line={line} onChange={(campaign) => go({ campaign })} />
      {oneOf('Segment', 'every lead', line.segment, line.segments, (segment) => go({ segment }))}
      {oneOf('Outcome', line.qualified || 'any outcome', line.outcome, line.outcomes, (outcome) => go({ outcome }))}
    </div>
  );
}

const picker = 'border-hero-line text-hero-ink bg-hero truncate rounded border px-2 py-0.5';

const oneOf = (
  label: string,
  none: string,
  value: string,
  choices: { id: string; name: string }[],
  onChoose: (value: string) => void,
) =>
  // What an address names and nobody offers any more can still be undone.
  (choices.length > 0 || value !== '') && (
    <LeadingSelect
      label={label}
      className={`${picker} w-38`}
      value={value}
      options={[['', none], ...choices.map(({ id, name }) => [id, name] as const)]}
      onChoose={onChoose}
    />
  );

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
