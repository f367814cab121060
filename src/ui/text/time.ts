const formats = new Map<string, Intl.DateTimeFormat>();

function parts(iso: string, timeZone: string, options: Intl.DateTimeFormatOptions) {
  const key = timeZone + JSON.stringify(options);
  const format = formats.get(key) ?? new Intl.DateTimeFormat('en-GB', { timeZone, ...options });
  formats.set(key, format);
  const found = format.formatToParts(new Date(iso));
  return (type: Intl.DateTimeFormatPartTypes) => found.find((part) => part.type === type)?.value ?? '';
}

/** "14 Jan, 09:42" in the business's time zone. */
export function shortTime(iso: string, timeZone: string): string {
  const part = parts(iso, timeZone, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  return `${part('day')} ${part('month')}, ${part('hour')}:${part('minute')}`;
}

/** Exact, for the pointer: "14 January 2027, 09:42:10 GMT". */
export function exactTime(iso: string, timeZone: string): string {
  const part = parts(iso, timeZone, {
    ...{ day: 'numeric', month: 'long', year: 'numeric', hour: '2-digit', minute: '2-digit', second: '2-digit' },
    ...{ hourCycle: 'h23', timeZoneName: 'short' },
  });
  return `${part('day')} ${part('month')} ${part('year')}, ${part('hour')}:${part('minute')}:${part('second')} ${part('timeZoneName')}`;
}

/** "19 Jan" of a day such as 2027-01-19. */
export function dayWords(day: string): string {
  const part = parts(`${day}T00:00:00Z`, 'UTC', { day: 'numeric', month: 'short' });
  return `${part('day')} ${part('month')}`;
}
