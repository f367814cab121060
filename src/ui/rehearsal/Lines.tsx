import { useEffect, useRef, useState, type ReactNode } from 'react';
import { completionsOf } from '../../core/rehearsal/completions';
import type { LineView, RehearsalOffers } from '../../core/rehearsal/view';
import { Combobox, isChoosing } from '../pick/Combobox';
import { Time } from '../text/Time';
import { Words } from '../text/Words';

const noteClass = {
  did: '',
  went_off: 'font-semibold',
  told: 'text-success',
  quiet: 'text-quiet',
  fault: 'text-error',
} as const;

/** The lines of a rehearsal with what each did, and the field in which the next one is typed. */
export function Lines({
  lines,
  walked,
  offers,
  timeZone,
  write,
  onClear,
  children,
}: {
  lines: string[];
  walked: LineView[];
  offers: RehearsalOffers | null;
  timeZone: string;
  write: (lines: string[]) => void;
  onClear: () => void;
  children: ReactNode;
}) {
  const [typed, setTyped] = useState('');
  /** The line that is typed anew; null where it is the next one. */
  const [place, setPlace] = useState<number | null>(null);
  const list = useRef<HTMLOListElement>(null);
  const newest = walked.length;
  useEffect(() => {
    list.current?.lastElementChild?.scrollIntoView({ block: 'nearest' });
  }, [newest]);
  const before = place === null ? lines : lines.slice(0, place);
  const put = (texts: string[]) => {
    const given = texts.map((text) => text.trim()).filter(Boolean);
    if (given.length === 0) return;
    write(place === null ? [...lines, ...given] : lines.toSpliced(place, 1, ...given));
    setTyped('');
    setPlace(null);
  };
  return (
    <>
      <div
        onKeyDownCapture={(event) => {
          if (event.key === 'Enter' && !isChoosing(event.target as Element)) put([typed]);
          if (event.key === 'Backspace' && typed === '' && lines.length > 0 && place === null) {
            event.preventDefault();
            setTyped(lines.at(-1)!);
            write(lines.slice(0, -1));
          }
        }}
      >
        <Combobox
          id="rehearsal-line"
          label="Next step"
          value={typed}
          choices={offers ? completionsOf(typed, before, offers) : []}
          onChange={setTyped}
          onPaste={(text) => (/\n/.test(text) ? put(text.split('\n')) : setTyped(text))}
          placeholder={
            lines.length === 0
              ? 'An address, or: arrive /fleet?utm_source=letter'
              : 'Next step: send, wait, come back …'
          }
          isFilteredHere={false}
        />
      </div>
      <ol ref={list} className="min-h-0 flex-1 overflow-y-auto" aria-label="Steps">
        {lines.map((line, at) => {
          const done = walked[at]?.line === line ? walked[at] : undefined;
          return (
            <li key={`${at} ${line}`} className="border-base-300 border-b py-1.5 last:border-0">
              <div className="flex items-start gap-2">
                <button
                  type="button"
                  className="value min-w-0 flex-1 text-left hover:underline"
                  title="Change this step"
                  onClick={() => {
                    setTyped(line);
                    setPlace(at);
                    document.getElementById('rehearsal-line')?.focus();
                  }}
                >
                  {line}
                </button>
                <button
                  type="button"
                  className="text-quiet hover:text-base-content px-1"
                  aria-label={`Take out step ${at + 1}`}
                  onClick={() => write(lines.toSpliced(at, 1))}
                >
                  ×
                </button>
              </div>
              {done?.problem && (
                <p className="text-error text-[13px]">
                  <Words text={done.problem} />
                </p>
              )}
              {done && !done.problem && /^wait/i.test(line) && (
                <p className="text-quiet text-[13px]">
                  until <Time iso={done.at} timeZone={timeZone} />
                </p>
              )}
              <Notes notes={done?.notes ?? []} />
            </li>
          );
        })}
      </ol>
      <div className="flex flex-wrap items-center gap-2">
        {children}
        {lines.length > 0 && (
          <button type="button" className="quiet-link" onClick={onClear}>
            Clear
          </button>
        )}
      </div>
    </>
  );
}

/** What a step did; what stayed quiet is opened where there is more than one of it. */
function Notes({ notes }: { notes: LineView['notes'] }) {
  const quiet = notes.filter(({ kind }) => kind === 'quiet');
  const loud = notes.filter(({ kind }) => kind !== 'quiet');
  const list = (some: LineView['notes']) =>
    some.map(({ kind, text }, at) => (
      <li key={`${at} ${text}`} className={`text-[13px] leading-snug ${noteClass[kind]}`}>
        {kind === 'fault' && <span className="sr-only">Lost or held: </span>}
        <Words text={text} />
      </li>
    ));
  return (
    <>
      <ul>{list(loud)}</ul>
      {quiet.length === 1 && <ul>{list(quiet)}</ul>}
      {quiet.length > 1 && (
        <details>
          <summary className="text-quiet cursor-pointer text-[13px]">{quiet.length} more</summary>
          <ul>{list(quiet)}</ul>
        </details>
      )}
    </>
  );
}
