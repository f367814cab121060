import type { EventsView } from '../../core/events/view';
import { readingOptions } from '../../core/rules/event';
import type { Option } from '../../core/rules/says';

/** Adds a reading, picked from those that there are. */
export function AddReading({
  view,
  label,
  words = `${label} …`,
  first = [],
  readings = readingOptions(view.beside),
  without = [],
  onAdd,
}: {
  view: EventsView;
  label: string;
  words?: string;
  /** What can be added beside readings. */
  first?: readonly (readonly [value: string, words: string])[];
  /** Those to choose from. */
  readings?: readonly Option[];
  /** Readings that are there already. */
  without?: readonly string[];
  onAdd: (id: string) => void;
}) {
  const options = readings.map(([id, name]) => [String(id), name] as const).filter(([id]) => !without.includes(id));
  return (
    <select className="field max-w-64" aria-label={label} value="" onChange={(event) => onAdd(event.target.value)}>
      <option value="">{words}</option>
      {[...first, ...options].map(([id, name]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}
