import { splitAddress } from '../../core/capture';
import { mayArrive, type EventIn } from '../../core/events/effect';
import { recordedBy } from '../../core/events/recorded';
import type { Cue, EventRule } from '../../core/events/schema';
import type { EventEffectView } from '../../core/events/view';
import { cueWords } from '../../core/rules/cue';
import { readingName } from '../../core/events/words';
import type { Hit } from '../../core/capture/schema';
import type { ReleaseContent } from '../../core/releases';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { json, selectOne, selectRows, text, time, uuid } from '../db';
import { readEveryPage } from '../capture/queries';
import { dayIn } from '../days';
import { hiddenName } from '../leads/called';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Draft } from '../releases/draft';

/** Days that are looked at, and hits of them, the newest first: more take longer than a person waits while writing. */
const days = 28;
const mostHits = 8000;
const day = 86_400_000;
/** How long (ms) an effect may take. */
const longest = 10_000;

/** What an event as it is written would have counted of what was recorded in the last four weeks. */
export function makeEventEffect({ db }: Context, draft: Draft) {
  return async function effect(membership: Membership, rule: EventRule): Promise<EventEffectView> {
    const { business, role } = membership;
    const { live, draft: edited } = await draft.content(business.id);
    const before = live.events.events.find(({ name }) => name === rule.name);
    const from = new Date(nowMs() - days * day);
    const cues = [...rule.cues, ...(before?.cues ?? [])];
    const rows = await readHits(business.id, from, cues);
    const hits = rows
      .reverse()
      .map(({ at, body }) => ({ hit: body, at: at.getTime(), day: dayIn(business.timeZone, at.getTime()) }));
    const since = rows.length === mostHits ? rows[0]!.at : from;
    const found = await runInPool(
      'eventEffect',
      {
        written: eventIn(rule, edited),
        live: before ? eventIn(before, live) : null,
        hits,
        days: daysFrom(since.getTime(), business.timeZone),
      },
      longest,
    );
    const people = await readPeople(
      business.id,
      found.newest.map(({ visitor }) => visitor),
    );
    return {
      since: since.toISOString(),
      written: found.written,
      live: found.live,
      unknown: found.unknown,
      unjudged: found.unjudged.map(cueWords),
      days: found.days.map(([one, count, gained]) => ({ day: one, count, gained })),
      newest: found.newest.map(({ hit, visitor, at, page, reads }) => {
        const person = people.get(visitor);
        return {
          id: hit,
          words: person?.words ? (role.seesPeople ? person.words : hiddenName) : 'no enquiry',
          href: person ? `/leads/${person.id}` : '',
          at: new Date(at).toISOString(),
          reads: [
            { words: '', value: page.slice(page.indexOf('/')) },
            ...reads.map(({ reading, value }) => ({ words: readingName(reading, edited.events.readings), value })),
          ],
        };
      }),
      missed: found.missed.map(({ cue, count }) => ({ words: cueWords(cue), count, cue })),
      recordedSince: await readRecordedSince(business.id, rule.cues, from),
    };
  };

  /** The newest hits that could set any of some cues off, the newest first. */
  async function readHits(businessId: string, from: Date, cues: readonly Cue[]) {
    const kinds = [...new Set(cues.flatMap(({ kind }) => recordedBy[kind] ?? []))];
    if (kinds.length === 0) return [];
    const arrivals = cues.filter(({ kind }) => kind === 'arrives');
    const pages = arrivals.length > 0 ? await readPages(businessId, from, arrivals) : [];
    const others = kinds.filter((kind) => kind !== 'arrived');
    const wanted = [
      ...(pages.length > 0 ? ["(kind = 'arrived' AND page IN (?))"] : []),
      ...(others.length > 0 ? ['kind IN (?)'] : []),
    ];
    if (wanted.length === 0) return [];
    return selectRows(
      db,
      { at: time(), body: json<Hit>() },
      `FROM hits FORCE INDEX (by_time) WHERE business_id = ? AND at >= ? AND (${wanted.join(' OR ')})
       AND bot = 0 AND own_network = 0 ORDER BY at DESC LIMIT ${mostHits}`,
      [businessId, from, ...(pages.length > 0 ? [pages] : []), ...(others.length > 0 ? [others] : [])],
    );
  }

  /** Pages of the last weeks at which some cues could be set off, or nearly. */
  async function readPages(businessId: string, from: Date, cues: readonly Cue[]): Promise<string[]> {
    return (await readEveryPage(db, businessId, from)).filter((page) => {
      const path = splitAddress(`http://${page}`)?.path ?? '';
      return cues.some((cue) => mayArrive(cue, path));
    });
  }

  /** Who visitors are, where they enquired. */
  async function readPeople(businessId: string, visitorIds: string[]) {
    if (visitorIds.length === 0) return new Map<string, { id: string; words: string }>();
    const rows = await selectRows(
      db,
      {
        id: uuid().of('e.id'),
        visitorId: uuid().of('e.visitor_id'),
        company: text().nullable().of('l.company'),
        personName: text().nullable().of('l.name'),
      },
      `FROM enquiries e LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
       WHERE e.business_id = ? AND e.visitor_id IN (?) ORDER BY e.sent_at`,
      [businessId, visitorIds],
    );
    return new Map(
      rows.map(({ id, visitorId, company, personName }) => [visitorId, { id, words: company || personName || '' }]),
    );
  }

  /** Since when what presses wait for is recorded, where that is later than the days that are looked at. */
  async function readRecordedSince(businessId: string, cues: readonly Cue[], from: Date): Promise<string | null> {
    if (!cues.some(({ kind }) => recordedBy[kind] === 'pressed')) return null;
    const { at } = await selectOne(
      db,
      { at: time().nullable().of('MIN(at)') },
      "FROM hits FORCE INDEX (by_time) WHERE business_id = ? AND at >= ? AND kind = 'pressed'",
      [businessId, from],
    );
    if (at === null) return '';
    return at.getTime() - from.getTime() > 2 * day ? at.toISOString() : null;
  }
}

const eventIn = (rule: EventRule, { events, capture }: ReleaseContent): EventIn => ({
  rule,
  readings: events.readings,
  swaps: capture.swaps,
});

function daysFrom(since: number, timeZone: string): string[] {
  const found = new Set<string>();
  for (let at = since; at < nowMs(); at += day / 2) found.add(dayIn(timeZone, at));
  found.add(dayIn(timeZone, nowMs()));
  return [...found];
}
