import { useEffect, useState } from 'react';
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
}: {
  range: Days;
  /** The days they are held against. */
  before?: Days | null;
  also?: string;
  isBusy: boolean;
}) {
  const text = [daysText(range), before && `against ${daysText(before)}`, also].filter(Boolean).join(', ');
  return (
    <p className="text-quiet min-h-6 text-[13px]" aria-live="polite">
      {isBusy ? <Waiting otherwise={text} /> : `${text}.`}
    </p>
  );
}

function Waiting({ otherwise }: { otherwise: string }) {
  const [isSlow, setSlow] = useState(false);
  useEffect(() => {
    const wait = setTimeout(() => setSlow(true), slow);
    return () => clearTimeout(wait);
  }, []);
  return isSlow ? 'Working it out …' : `${otherwise}.`;
}
