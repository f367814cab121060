import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { StationFrame, type StationParts } from '../../ui/frame/StationFrame';

type Section = 'Make one' | 'Make many' | 'Made' | 'Short links' | 'Page checks';

const paths: [Section, string][] = [
  ['Make one', ''],
  ['Make many', '/many'],
  ['Made', '/made'],
  ['Short links', '/short'],
  ['Page checks', '/checks'],
];

/** What every part of the station Links stands in: its sentence, and the way to the other parts. */
export function LinksFrame({
  business,
  section,
  sentence,
  actions,
  children,
}: {
  business: string;
  section: Section;
  sentence: SentenceWords;
  actions?: ReactNode;
  children: ReactNode;
}) {
  return (
    <StationFrame sentence={sentence} actions={actions} parts={linkParts(business, section)}>
      {children}
    </StationFrame>
  );
}

export const linkParts = (business: string, current: Section): StationParts => ({
  label: 'Links',
  home: `/b/${business}/links`,
  paths,
  current,
});
