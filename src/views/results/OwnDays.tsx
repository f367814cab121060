import { useState } from 'react';

interface Days {
  /** Such as `2027-02-15`; '' before it is chosen. */
  from: string;
  to: string;
}

/** The first and the last of the days that somebody chooses; taken once both are there. */
export function OwnDays({ days: given, onChange }: { days: Days; onChange: (days: Days) => void }) {
  const [days, setDays] = useState<Days>({ from: given.from, to: given.to });
  const take = (next: typeof days) => {
    setDays(next);
    if (next.from !== '' && next.to !== '') onChange(next);
  };
  const field = (label: string, name: 'from' | 'to') => (
    <label className="flex items-center gap-2">
      {label}
      <input
        type="date"
        className="field w-auto"
        required
        value={days[name]}
        onChange={({ target }) => take({ ...days, [name]: target.value })}
      />
    </label>
  );
  return (
    <div className="mt-1 flex flex-wrap gap-4">
      {field('from', 'from')}
      {field('to', 'to')}
    </div>
  );
}
