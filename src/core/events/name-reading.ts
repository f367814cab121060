const begins = 'named_at_';

/** The reading that an event's name at an account is to outcomes: `named_at_meterhall`. */
export const nameReading = (account: string): string => begins + account.replace(/[^a-z0-9_]/g, '_').slice(0, 50);

/** Where the name is that such a reading holds; null where it is none. */
export const placeOfName = (id: string): string | null => (id.startsWith(begins) ? id.slice(begins.length) : null);
