import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';

type Section = 'Tags' | 'Campaign names' | 'Sources' | 'Do they agree?' | 'Campaigns' | 'Off plan' | 'Share';

const paths: [Section, string][] = [
  ['Tags', ''],
  ['Campaign names', '/names'],
  ['Sources', '/sources'],
  ['Do they agree?', '/channels'],
  ['Campaigns', '/campaigns'],
  ['Off plan', '/off-plan'],
  ['Share', '/share'],
];

/** What every part of the station Plan stands in: its sentence, and the way to the other parts. */
export function PlanFrame({
  business,
  section,
  sentence,
  offPlan,
  actions,
  children,
}: {
  business: string;
  section: Section;
  sentence: SentenceWords;
  offPlan?: number;
  actions?: ReactNode;
  children: ReactNode;
}) {
  useDraftWatch(business);
  const parts = {
    label: 'Plan',
    home: `/b/${business}/plan`,
    paths,
    current: section,
    counts: { 'Off plan': offPlan },
  };
  return (
    <StationFrame sentence={sentence} actions={actions} parts={parts}>
      {children}
    </StationFrame>
  );
}
