import type { Press } from '../../core/events/press';
import { evidenceWords, isQuiet, type Evidence } from '../../core/evidence';
import type { EventRule } from '../../core/events/schema';
import { lastingSelector } from '../../core/events/selector';
import { startersFor, type PressCount } from '../../core/events/starters';
import type { MovedPage } from '../../core/events/moved';
import type { EventOffers, EventsView, ReadingLately, Told } from '../../core/events/view';
import { hostOf } from '../../core/capture';
import { listed } from '../../core/listed';
import { mayChange } from '../../core/people/rights';
import { quoteValue } from '../../core/quote-value';
import type { ReleaseContent } from '../../core/releases';
import { count, counted, type Sentence } from '../../core/strands';
import { nowMs } from '../clock';
import { readPathsSeen } from '../capture/queries';
import type { Context } from '../context';
import { selectRows, text, time, whole } from '../db';
import { readLives } from '../releases/live-since';
import type { Membership } from '../people/people';
import type { Connections } from '../connections/connections';
import { readToldEvents } from '../connections/queries';
import type { Draft } from '../releases/draft';
import { makeFindMoved } from './moved';
import { readPresses } from './presses';
import { events } from './table';

const day = 86_400_000;
/** Weeks that evidence, offers and readings are taken from. */
const weeks = 8;
/** The newest of each event that its readings are looked at in. */
const newestOfEach = 40;
const mostOffered = 200;
const latestValues = 3;
/** Pages that are shown of a reading. */
const mostPages = 4;
/** Quiet events that are looked after; a business with more has lost its website. */
const mostMoved = 5;

export type EventsStation = ReturnType<typeof makeEventsStation>;

/** The station Events: what counts on the pages, how it is counted, and what the website offers for more. */
export function makeEventsStation({ db, tables }: Context, draft: Draft, connections: Pick<Connections, 'names'>) {
  const findMoved = makeFindMoved({ db });
  const start = () => new Date(nowMs() - weeks * 7 * day);

  /** How each live event was counted lately, without since when it is live. */
  async function readCounts(businessId: string, live: ReleaseContent): Promise<Map<string, Evidence>> {
    const rows = await selectRows(
      db,
      {
        name: text(),
        count: whole().of("SUM(marked = '')"),
        firstAt: time().nullable().of("MIN(IF(marked = '', at, NULL))"),
        lastAt: time().nullable().of("MAX(IF(marked = '', at, NULL))"),
      },
      'FROM events FORCE INDEX (by_name) WHERE business_id = ? AND at >= ? GROUP BY name',
      [businessId, start()],
    );
    const known = new Map(rows.map((row) => [row.name, row]));
    return new Map(
      live.events.events.map(({ name }) => {
        const row = known.get(name);
        const [firstAt, lastAt] = [row?.firstAt?.getTime() ?? null, row?.lastAt?.getTime() ?? null];
        return [name, { count: row?.count ?? 0, firstAt, lastAt, liveSince: null }];
      }),
    );
  }

  async function readEvidence(businessId: string, live: ReleaseContent): Promise<Map<string, Evidence>> {
    const counts = await readCounts(businessId, live);
    const isSilent = [...counts.values()].some(({ count: times }) => times === 0);
    const { since } = isSilent ? await readLives(db, businessId, '$.events.events[*].name') : { since: new Map() };
    return new Map([...counts].map(([name, one]) => [name, { ...one, liveSince: since.get(name) ?? null }]));
  }

  /** What each event's readings took along the newest times, by event and reading. */
  async function readLately(businessId: string, rules: readonly EventRule[]): Promise<Record<string, ReadingLately>> {
    const withReads = rules.filter(({ reads }) => reads.length > 0).map(({ name }) => name);
    if (withReads.length === 0) return {};
    const one = `(SELECT name, at, page, readings FROM events WHERE business_id = ? AND name = ? ORDER BY at DESC LIMIT ${newestOfEach})`;
    const rows = await selectRows(
      db,
      { name: text(), page: text(), readings: events.columns.readings },
      `FROM (${withReads.map(() => one).join(' UNION ALL ')}) AS newest ORDER BY at DESC`,
      withReads.flatMap((name) => [businessId, name]),
    );
    const lately: Record<string, ReadingLately> = {};
    for (const { name, page: address, readings } of rows)
      for (const { reading, value } of readings) {
        const page = address.split(/[?#]/)[0]!;
        const known = (lately[`${name} ${reading}`] ??= { values: [], of: 0, empty: 0, pages: [] });
        let here = known.pages.find((one) => one.page === page);
        if (!here) known.pages.push((here = { page, of: 0, empty: 0 }));
        for (const counts of [known, here]) {
          counts.of += 1;
          if (value === '') counts.empty += 1;
        }
        if (value !== '' && !known.values.includes(value) && known.values.length < latestValues)
          known.values.push(value);
      }
    for (const known of Object.values(lately))
      known.pages = known.pages.sort((a, b) => b.of - a.of).slice(0, mostPages);
    return lately;
  }

  /** What was pressed lately, alike presses together, the most often pressed first. */
  async function countPresses(businessId: string): Promise<PressCount[]> {
    const found = new Map<string, PressCount>();
    for (const { press } of await readPresses(db, businessId, start())) {
      const key = JSON.stringify(press);
      const known = found.get(key) ?? { press, count: 0 };
      known.count += 1;
      found.set(key, known);
    }
    return [...found.values()].sort((a, b) => b.count - a.count);
  }

  async function readOffers(
    businessId: string,
    presses: readonly PressCount[],
    { events: rules, capture }: ReleaseContent,
  ): Promise<EventOffers> {
    const [forms, paths] = await Promise.all([
      tables.formsSeen.findAll({
        attributes: ['form', 'fields'],
        where: { businessId },
        order: [['lastAt', 'DESC']],
        limit: mostOffered,
        raw: true,
      }),
      readPathsSeen(db, businessId, start(), mostOffered),
    ]);
    const pressed = (value: (press: Press) => string) => unique(presses.map(({ press }) => value(press)));
    const seen = forms as unknown as { form: string; fields: { name: string; hidden: boolean }[] }[];
    return {
      forms: unique([...capture.forms.map(({ name }) => name), ...seen.map(({ form }) => form)]),
      paths,
      elements: pressed(lastingSelector),
      wordsPressed: pressed(({ text: words }) => words),
      links: unique(
        presses.map(({ press: { link } }) => (/^[a-z]+:/i.exec(link)?.[0] === 'tel:' ? 'tel:' : hostOf(link))),
      ),
      pageSays: unique(
        rules.events.flatMap(({ cues }) => cues.flatMap(({ kind, text: name }) => (kind === 'says' ? name : []))),
      ),
      fields: unique(seen.flatMap(({ fields }) => fields.map(({ name }) => name))),
    };
  }

  /** What became of events that were told. */
  async function readTold(businessId: string): Promise<Record<string, Told>> {
    const [rows, whys] = await Promise.all([
      readToldEvents(db, businessId),
      selectRows(
        db,
        { event: text(), account: text(), toldBy: text(), reason: text() },
        `FROM (SELECT event, account, told_by, reason FROM event_tellings
         WHERE business_id = ? AND reason <> '' ORDER BY made_at DESC LIMIT 200) AS newest`,
        [businessId],
      ),
    ]);
    const told: Record<string, Told> = {};
    for (const { event, account, toldBy, state, count: times, lastAt } of rows) {
      const key = `${event} ${account} ${toldBy}`;
      const one = (told[key] ??= {
        told: 0,
        refused: 0,
        waiting: 0,
        held: 0,
        unsure: 0,
        'worked out': 0,
        lastAt: null,
        why: '',
      });
      one[state as 'told'] += times;
      if (lastAt && (one.lastAt ?? '') < lastAt.toISOString()) one.lastAt = lastAt.toISOString();
      one.why ||= whys.find((why) => `${why.event} ${why.account} ${why.toldBy}` === key)?.reason ?? '';
    }
    return told;
  }

  /** Where the pages went that quiet events wait for. */
  async function readMoved(
    businessId: string,
    { events: { events: rules } }: ReleaseContent,
    evidence: Map<string, Evidence>,
  ): Promise<Record<string, MovedPage>> {
    const quiet = rules.filter(({ name }) => isQuiet(evidence.get(name)!, nowMs())).slice(0, mostMoved);
    const found = await Promise.all(
      quiet.map((rule) => findMoved(businessId, rule, evidence.get(rule.name)!.lastAt!, nowMs())),
    );
    return Object.fromEntries(quiet.flatMap(({ name }, at) => (found[at] ? [[name, found[at]]] : [])));
  }

  return {
    async view({ business, role }: Membership): Promise<EventsView> {
      const { draft: edited, live, changed } = await draft.content(business.id);
      const [evidence, presses, accounts] = await Promise.all([
        readEvidence(business.id, live),
        countPresses(business.id),
        connections.names(business.id),
      ]);
      const { events: rules, capture, platforms } = edited;
      const [moved, told, offers, lately] = await Promise.all([
        readMoved(business.id, live, evidence),
        readTold(business.id),
        readOffers(business.id, presses, edited),
        readLately(business.id, rules.events),
      ]);
      return {
        sentence: eventsSentence(live, edited, evidence, moved),
        events: rules.events,
        readings: rules.readings,
        wires: rules.wires,
        told,
        recording: { presses: rules.presses },
        beside: { capture, events: rules, platforms, accounts },
        offers,
        starters: startersFor(capture, presses, rules.events),
        evidence: Object.fromEntries([...evidence].map(([name, one]) => [name, evidenceWords(one, nowMs())])),
        moved,
        lately,
        changed,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** Where the pages went that live events wait for, of those that have gone quiet. */
    async moved(businessId: string): Promise<Record<string, MovedPage>> {
      const { live } = await draft.content(businessId);
      return readMoved(businessId, live, await readEvidence(businessId, live));
    },

    /** How many events of the live release have gone quiet. */
    async quietCount(businessId: string): Promise<number> {
      const { live } = await draft.content(businessId);
      const counts = await readCounts(businessId, live);
      return [...counts.values()].filter((one) => isQuiet(one, nowMs())).length;
    },
  };
}

const unique = (values: string[]): string[] =>
  [...new Set(values.filter((value) => value !== ''))].slice(0, mostOffered);

function eventsSentence(
  live: ReleaseContent,
  edited: ReleaseContent,
  evidence: Map<string, Evidence>,
  moved: Record<string, MovedPage>,
): Sentence {
  const now = nowMs();
  const rules = live.events.events;
  if (edited.events.events.length === 0)
    return {
      title: 'Nothing on the website counts as an event yet.',
      under: edited.events.presses
        ? 'Say what counts: a form sent, a link pressed, a page reached. What it would have caught is shown while you write.'
        : 'Pages do not record what is pressed: switch that on below, and a new event can be judged by what was.',
    };
  if (rules.length === 0)
    return {
      title: `${counted(edited.events.events.length, 'event is', 'events are')} in the draft; none is live.`,
      under: 'Nothing is counted until they are live.',
    };
  const areLive = counted(rules.length, 'event is', 'events are');
  const quiet = rules.filter(({ name }) => isQuiet(evidence.get(name)!, now));
  const [first] = quiet;
  if (first) {
    const gone = moved[first.name];
    return {
      title: `${areLive} live; ${quiet.length === 1 ? `“${first.words}” has` : `${quiet.length} have`} gone quiet${gone ? ' since its page moved' : ''}.`,
      under: gone
        ? `${quoteValue(first.name)} waits for ${quoteValue(gone.was)}; visitors now reach ${quoteValue(gone.now)}.`
        : `${quoteValue(first.name)}: ${evidenceWords(evidence.get(first.name)!, now)}.`,
    };
  }
  const silent = rules.filter(({ name }) => evidence.get(name)!.lastAt === null);
  const total = [...evidence.values()].reduce((sum, one) => sum + one.count, 0);
  return {
    title: `${areLive} live, counted ${count(total)} ${total === 1 ? 'time' : 'times'} in ${weeks} weeks.`,
    under:
      silent.length > 0
        ? `${listed(silent.map(({ name }) => quoteValue(name)))} ${silent.length === 1 ? 'was' : 'were'} not counted yet.`
        : 'Each of them was counted.',
  };
}
