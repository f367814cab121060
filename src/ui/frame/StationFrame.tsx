import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { Sections } from './Sections';
import { Sentence } from './Sentence';

/** The parts of a station: which one is open, and what is counted beside the name of some. */
export interface StationParts {
  label: string;
  /** The station's own address; those of its parts begin with it. */
  home: string;
  paths: readonly (readonly [words: string, path: string])[];
  current: string;
  counts?: Record<string, number | undefined>;
}

/** The way to the other parts of a station. */
export function PartsOf({ label, home, paths, current, counts = {} }: StationParts) {
  const sections = paths.map(([words, path]) => {
    const count = counts[words];
    return count === undefined ? { words, href: home + path } : { words, href: home + path, count };
  });
  return <Sections label={label} sections={sections} current={current} />;
}

/** What every page stands in: the way back, its sentence with what can be done, and the other parts of its station. */
export function StationFrame({
  sentence,
  crumb,
  actions,
  parts,
  children,
}: {
  sentence: SentenceWords;
  crumb?: ReactNode;
  actions?: ReactNode;
  parts?: StationParts;
  children?: ReactNode;
}) {
  return (
    <div className="px-6 pt-5">
      <Sentence title={sentence.title} under={sentence.under} crumb={crumb}>
        {actions}
      </Sentence>
      {parts && <PartsOf {...parts} />}
      {parts ? <div className="mt-4">{children}</div> : children}
    </div>
  );
}
