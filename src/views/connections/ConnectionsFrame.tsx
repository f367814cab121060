import type { ReactNode } from 'react';
import type { Sentence } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';

type Section = 'Connections' | 'Own platforms' | 'Own CRM' | 'People' | 'Change log';

const paths: [Section, string][] = [
  ['Connections', '/connections'],
  ['Own platforms', '/connections/platforms'],
  ['Own CRM', '/connections/crms'],
  ['People', '/people'],
  ['Change log', '/changes'],
];

/** The parts of what is behind a business's name. */
export const businessParts = (business: string, current: Section) => ({
  label: 'Business',
  home: `/b/${business}`,
  paths,
  current,
});

/** What the pages behind a business's name stand in. */
export function ConnectionsFrame({
  business,
  section,
  sentence,
  actions,
  children,
}: {
  business: string;
  section: Section;
  sentence: Sentence;
  actions?: ReactNode;
  children: ReactNode;
}) {
  return (
    <StationFrame sentence={sentence} actions={actions} parts={businessParts(business, section)}>
      {children}
    </StationFrame>
  );
}
