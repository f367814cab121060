const begins = 'named_at_';

/** The reading that an event's name at an account is to outcomes: `named_at_meterhall`. */
export const nameReading = (account: string): string => begins + account.replace(/[^a-z0-9_]/g, '_').slice(0, 50);

/** What people call such a reading; null where it is none. */
export const nameReadingWords = (id: string): string | null =>
  id.startsWith(begins) ? `its name at ${id.slice(begins.length)}` : null;
