import type { ReactNode } from 'react';
import type { CaptureBase } from '../../core/capture/station-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';

type Section = 'Faults' | 'Kept' | 'Fields' | 'Swap tables' | 'Forms seen' | 'Elsewhere' | 'Not customers' | 'Install';

const paths: [Section, string][] = [
  ['Faults', ''],
  ['Kept', '/kept'],
  ['Fields', '/fields'],
  ['Swap tables', '/swaps'],
  ['Forms seen', '/forms'],
  ['Elsewhere', '/elsewhere'],
  ['Not customers', '/no-customer'],
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
  useDraftWatch(business);
  const parts = {
    label: 'Capture',
    home: `/b/${business}/capture`,
    paths,
    current: section,
    counts: { Faults: view.faults },
  };
  return (
    <StationFrame sentence={view.sentence} actions={actions} parts={parts}>
      {children}
    </StationFrame>
  );
}
