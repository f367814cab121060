import type { ReactNode } from 'react';
import type { CaptureBase } from '../../core/capture/station-view';
import { Sections } from '../../ui/frame/Sections';
import { Sentence } from '../../ui/frame/Sentence';

type Section = 'Faults' | 'Kept' | 'Fields' | 'Swap tables' | 'Forms seen' | 'Elsewhere' | 'No customer' | 'Install';

const paths: [Section, string][] = [
  ['Faults', ''],
  ['Kept', '/kept'],
  ['Fields', '/fields'],
  ['Swap tables', '/swaps'],
  ['Forms seen', '/forms'],
  ['Elsewhere', '/elsewhere'],
  ['No customer', '/no-customer'],
  ['Install', '/install'],
];

/** What every part of the station Capture stands in: its sentence, and the way to the other parts. */
export function CaptureFrame({
  business,
  section,
  view,
  actions,
  children,
}: {
  business: string;
  section: Section;
  view: CaptureBase;
  actions?: ReactNode;
  children: ReactNode;
}) {
  const sections = paths.map(([words, path]) => ({
    words,
    href: `/b/${business}/capture${path}`,
    ...(words === 'Faults' ? { count: view.faults } : {}),
  }));
  return (
    <div className="px-6 pt-5">
      <Sentence title={view.sentence.title} under={view.sentence.under}>
        {actions}
      </Sentence>
      <Sections label="Capture" sections={sections} current={section} />
      <div className="mt-4">{children}</div>
    </div>
  );
}
