/** What a row told to an own platform can hold. */
export const platformReadings = [
  ...(['click_id', 'outcome', 'event_id', 'happened_at', 'happened_at_seconds', 'happened_at_ms'] as const),
  ...(['worth', 'worth_text', 'worth_minor', 'currency', 'change', 'mail_hash'] as const),
  ...(['telephone_hash', 'fields', 'text'] as const),
] as const;
export type PlatformReading = (typeof platformReadings)[number];

export const platformReadingWords: Record<PlatformReading, string> = {
  click_id: 'the click ID',
  outcome: 'the outcome',
  event_id: 'the event ID',
  happened_at: 'when it happened, as 2027-02-15T09:42:00.000Z',
  happened_at_seconds: 'when it happened, in seconds since 1970',
  happened_at_ms: 'when it happened, in milliseconds since 1970',
  worth: 'the worth, as a number',
  worth_text: 'the worth, as a text such as “540.00”',
  worth_minor: 'the worth in pence or cents, as a number',
  currency: 'the currency',
  change: 'whether it is “new”, “revalued” or “taken-back”',
  mail_hash: 'the email address, hashed',
  telephone_hash: 'the telephone number, hashed',
  fields: 'what an event’s wire sends along, each under its name',
  text: 'always the text',
};

/** The columns of the open form of offline conversions. */
export const openColumns: readonly (readonly [at: string, reading: PlatformReading])[] = [
  ['/click_id', 'click_id'],
  ['/outcome', 'outcome'],
  ['/happened_at', 'happened_at'],
  ['/amount', 'worth_text'],
  ['/currency', 'currency'],
  ['/order_id', 'event_id'],
  ['/change', 'change'],
];

/** Whether a row says a reading: at a place of its own, or in its address. */
export const saysReading = (
  { fields, path }: { fields: readonly { reading: PlatformReading }[]; path: string },
  wanted: PlatformReading,
): boolean => fields.some(({ reading }) => reading === wanted) || new RegExp(`[{,?&+#./;]${wanted}[*:,}]`).test(path);
