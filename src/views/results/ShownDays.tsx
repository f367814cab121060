import { useEffect, useState } from 'react';
import { progressWords, type Progress } from '../../core/results/progress';
import { dayWords } from '../../ui/text/time';

interface Days {
  firstDay: string;
  lastDay: string;
}

const daysText = ({ firstDay, lastDay }: Days) => `${dayWords(firstDay)} to ${dayWords(lastDay)}`;
const slow = 500;

/** The days that are shown; while others are worked out it says so, once that takes a while. */
export function ShownDays({
  range,
  before = null,
  also = '',
  isBusy,
  progress = null,
}: {
  range: Days;
  /** The days they are held against. */
  before?: Days | null;
  also?: string;
  isBusy: boolean;
  /** How far it is, where that is told. */
  progress?: Progress | null;
}) {
  const text = [daysText(range), before && `against ${daysText(before)}`, also].filter(Boolean).join(', ');
  return (
    <p className="text-quiet min-h-6 text-[13px]" aria-live="polite">
      {isBusy ? <Waiting otherwise={text} progress={progress} /> : `${text}.`}
    </p>
  );
}

function Waiting({ otherwise, progress }: { otherwise: string; progress: Progress | null }) {
  const [isSlow, setSlow] = useState(false);
  useEffect(() => {
    const wait = setTimeout(() => setSlow(true), slow);
    return () => clearTimeout(wait);
  }, []);
  return isSlow ? progressWords(progress ?? { done: 0, of: 0 }) : `${otherwise}.`;
}
