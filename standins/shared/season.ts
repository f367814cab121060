/** Names and days of the scenario are written as for this day. */
const writtenFor = '2027-02-15';

/** Moves what is written into a world's own time. */
export type Season = <T>(written: T) => T;

const dayNumber = (day: string): number => Date.parse(`${day}T00:00:00Z`) / 86_400_000;
const quarterNumber = (year: number, quarter: number): number => year * 4 + quarter - 1;
const quarterOf = (day: string): number =>
  quarterNumber(Number(day.slice(2, 4)), Math.ceil(Number(day.slice(5, 7)) / 3));

/**
 * In a world whose last day (`2027-02-15`) is another one, everything lies around that: days are moved by as many days,
 * and quarters in campaign names (`27q1`) by as many quarters.
 */
export function makeSeason(lastDay: string): Season {
  const days = dayNumber(lastDay) - dayNumber(writtenFor);
  const quarters = quarterOf(lastDay) - quarterOf(writtenFor);
  const moveDay = (day: string) => new Date((dayNumber(day) + days) * 86_400_000).toISOString().slice(0, 10);
  const moveQuarter = (_: string, year: string, quarter: string) => {
    const moved = quarterNumber(Number(year), Number(quarter)) + quarters;
    return `${String(Math.floor(moved / 4)).padStart(2, '0')}q${(moved % 4) + 1}`;
  };
  const move = (text: string) =>
    text.replace(/\b\d{4}-\d\d-\d\d\b/g, moveDay).replace(/\b(\d\d)q([1-4])\b/g, moveQuarter);
  return <T>(written: T) => JSON.parse(move(JSON.stringify(written))) as T;
}
