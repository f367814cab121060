import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { Sections } from '../../ui/frame/Sections';
import { Sentence } from '../../ui/frame/Sentence';

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
    <div className="px-6 pt-5">
      <Sentence title={sentence.title} under={sentence.under}>
        {actions}
      </Sentence>
      <LinkSections business={business} section={section} />
      <div className="mt-4">{children}</div>
    </div>
  );
}

export function LinkSections({ business, section }: { business: string; section: Section }) {
  const sections = paths.map(([words, path]) => ({ words, href: `/b/${business}/links${path}` }));
  return <Sections label="Links" sections={sections} current={section} />;
}
