/** The longest key that stands in an event's ID as it is. */
const longestKey = 64;

/** 53 bits of a text, by the multiplications of MurmurHash3's mixing step; for telling long keys apart, not for secrets. */
function mark(text: string): string {
  let [high, low] = [0xdeadbeef, 0x41c6ce57];
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    high = Math.imul(high ^ code, 2654435761);
    low = Math.imul(low ^ code, 1597334677);
  }
  high = Math.imul(high ^ (high >>> 16), 2246822507) ^ Math.imul(low ^ (low >>> 13), 3266489909);
  low = Math.imul(low ^ (low >>> 16), 2246822507) ^ Math.imul(high ^ (high >>> 13), 3266489909);
  return (4294967296 * (2097151 & low) + (high >>> 0)).toString(36);
}

/**
 * The ID of an event from its name and its key (counting rule 11): the same on a reloaded page, in a second try, and for
 * the twin that the server tells. At most 40 + 1 + 64 characters.
 */
export function eventIdOf(name: string, key: string): string {
  const short = key.length <= longestKey ? key : `${key.slice(0, 48)}~${mark(key)}`;
  return `${name}.${short}`;
}

/** The longest event ID that every platform takes. */
const longestId = 60;

/** An event's ID for a platform that takes only short ones: always the same for the same ID. */
export const shortEventId = (eventId: string): string =>
  eventId.length <= longestId ? eventId : `${eventId.slice(0, longestId - 12)}~${mark(eventId)}`;
