import type { Hit, Kept } from '../capture/schema';
import { splitReferrer } from '../capture/address';
import { piiIn } from '../capture/pii';
import { eventIdOf } from '../events/event-id';
import { judgeEvent, type Moment } from '../events/judge';
import { readHashed } from '../events/mail-hash';
import { clickFor } from '../events/page-argument';
import { hashedReadings, pageWires } from '../events/page-wires';
import { readValueOf, type Sources } from '../events/readings';
import { recordedMoment } from '../events/recorded';
import { mayWire, readsWithWires } from '../events/wires';
import { seenWords } from '../reasons/seen-words';
import { readingName } from '../events/words';
import type { ReleaseContent } from '../releases/schema';
import type { KnownWorld } from './known';
import type { Note } from './walker';

/** What events did at a moment: in words, and as the hits that the page would tell. */
export interface Judgement {
  notes: Note[];
  hits: Hit[];
}

/**
 * Judges a release's events by what a pretend visitor does, as its pages would: each event once for its key. What stands
 * in the page itself is not known, so readings from there are empty.
 */
export function eventsAt({ events, capture, platforms }: ReleaseContent, { accounts }: Pick<KnownWorld, 'accounts'>) {
  const counted = new Set<string>();
  const byPages = pageWires(events.wires, platforms);
  const hashed = hashedReadings(events, platforms);
  const nameOf = (id: string) => readingName(id, events.readings);

  function judgeAll(
    moment: Omit<Moment, 'read'>,
    hit: Hit,
    kept: Kept,
    newId: () => string,
    sources: Partial<Sources>,
  ): Judgement {
    const [notes, hits]: [Note[], Hit[]] = [[], []];
    const read = (id: string) => {
      const value =
        readValueOf(id, events.readings, {
          moment,
          kept,
          swaps: capture.swaps,
          from: splitReferrer(hit.referrer),
          element: () => '',
          hash: (reading, mail) => readHashed(hashed, reading, mail, hit.consent ?? null, capture.consent.required),
          ...sources,
        }) ?? '';
      return value && piiIn(value) ? '' : value;
    };
    for (const rule of events.events) {
      const judged = judgeEvent(rule, { ...moment, read });
      const { went, key } = judged;
      const id = went && key ? eventIdOf(rule.name, key) : '';
      const isNew = id !== '' && !counted.has(id);
      const text = seenWords(rule, judged, isNew, nameOf);
      if (text) notes.push({ kind: isNew ? 'went_off' : 'quiet', text });
      if (!isNew) continue;
      counted.add(id);
      const common = { ...commonOf(hit), event: rule.name, key: key! };
      const reads = readsWithWires(rule, events.wires).map((reading) => ({ reading, value: read(reading) }));
      const cue = judged.cues.findIndex(({ holds }) => holds);
      hits.push({ ...common, id: newId(), kind: 'event', cue, reads });
      for (const wire of byPages.filter(({ event }) => event === rule.name)) {
        if (!mayWire(wire, hit.consent ?? null, capture.consent.required)) continue;
        if (clickFor(wire.clicksOf, kept.clicks) === null) continue;
        const hasOpener = accounts.some(({ key: account, hasOpener: has }) => account === wire.account && has);
        const how = hasOpener ? 'told' : 'no_opener';
        hits.push({ ...common, id: newId(), kind: 'handed', account: wire.account, how });
      }
    }
    return { notes, hits };
  }

  return Object.assign(
    /** @param field what stands in a field of the form that is sent */
    (hit: Hit, kept: Kept, newId: () => string, field: (name: string) => string = () => ''): Judgement => {
      const moment = recordedMoment(hit, events.readings, capture.swaps);
      return moment ? judgeAll(moment, hit, kept, newId, { field }) : { notes: [], hits: [] };
    },
    {
      /** What goes off while a page is in view. @param seconds for how long */
      stayed(hit: Hit, kept: Kept, newId: () => string, seconds: number): Judgement {
        const { address, id, visit, visitor } = hit;
        const moment = { kind: 'stayed' as const, address, page: splitReferrer(address), amount: seconds };
        return judgeAll({ ...moment, ids: { hit: id, visit, visitor } }, hit, kept, newId, {});
      },
    },
  );
}

/** What every hit says, of the hit that set an event off. */
const commonOf = ({ at, release, visitor, visit, address, referrer, consent, kept }: Hit) => ({
  at,
  release,
  visitor,
  visit,
  address,
  referrer,
  consent,
  kept,
});
