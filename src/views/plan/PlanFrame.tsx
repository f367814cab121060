import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { Sections } from '../../ui/frame/Sections';
import { Sentence } from '../../ui/frame/Sentence';

type Section = 'Tags' | 'Campaign names' | 'Do they agree?' | 'Campaigns' | 'Off plan' | 'Share';

const paths: [Section, string][] = [
  ['Tags', ''],
  ['Campaign names', '/names'],
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
  const sections = paths.map(([words, path]) => ({
    words,
    href: `/b/${business}/plan${path}`,
    ...(words === 'Off plan' && offPlan !== undefined ? { count: offPlan } : {}),
  }));
  return (
    <div className="px-6 pt-5">
      <Sentence title={sentence.title} under={sentence.under}>
        {actions}
      </Sentence>
      <Sections label="Plan" sections={sections} current={section} />
      <div className="mt-4">{children}</div>
    </div>
  );
}
