import { beginsToBid } from '../../core/outcomes/bidding';
import { findingsBeforeRelease, type Lately } from '../../core/events/before-release';
import type { Press } from '../../core/events/press';
import type { ContentFinding } from '../../core/rules/findings';
import type { ReleaseContent } from '../../core/releases';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { selectRows, text, time, whole } from '../db';
import type { Membership } from '../people/people';
import type { Accounts } from '../platforms/accounts';
import type { Draft } from '../releases/draft';
import type { Catalogues } from './catalogue';
import { mostPresses, readPresses } from './presses';
import type { EventsStation } from './station';

const day = 86_400_000;
const weeks = 4;
/** The newest of each event that are compared with others, and how often two must have come together to be named. */
const mostCompared = 200;
const leastTogether = 5;
/** How long (ms) places outside may take to answer. */
const patience = 3000;

/** Holds the draft's events and wires against what was recorded lately and what places outside say, before they go live. */
export function makeBeforeRelease(
  { db }: Context,
  draft: Draft,
  accounts: Accounts,
  station: Pick<EventsStation, 'moved'>,
  catalogues: Pick<Catalogues, 'known'>,
) {
  const since = () => new Date(nowMs() - weeks * 7 * day);

  async function readAllPresses(businessId: string): Promise<Press[] | null> {
    const [first] = await selectRows(
      db,
      { at: time().nullable().of('MIN(made_at)') },
      "FROM releases WHERE business_id = ? AND JSON_VALUE(content, '$.events.presses') IN ('1', 'true')",
      [businessId],
    );
    if (!first?.at || first.at > since()) return null;
    const all = await readPresses(db, businessId, since());
    // Of more presses than are read the rest may have been anything.
    return all.length === mostPresses ? null : all.map(({ press }) => press);
  }

  /** Pairs of events that went off together each time, by the newest of each. */
  async function readPairs(businessId: string, names: string[]): Promise<Lately['pairs']> {
    if (names.length < 2) return [];
    const one = `(SELECT name, visit_id, at FROM events FORCE INDEX (by_name)
      WHERE business_id = ? AND name = ? AND at >= ? ORDER BY at DESC LIMIT ${mostCompared})`;
    const rows = await selectRows(
      db,
      { name: text(), moment: text().of("CONCAT(visit_id, ' ', UNIX_TIMESTAMP(at) DIV 1)") },
      `FROM (${names.map(() => one).join(' UNION ALL ')}) AS newest`,
      names.flatMap((name) => [businessId, name, since()]),
    );
    const momentsOf = new Map<string, Set<string>>();
    for (const { name, moment } of rows) momentsOf.set(name, (momentsOf.get(name) ?? new Set()).add(moment));
    return names.flatMap((first, at) =>
      names.slice(at + 1).flatMap((second): [string, string, number][] => {
        const [a, b] = [momentsOf.get(first) ?? new Set(), momentsOf.get(second) ?? new Set()];
        const isSame = a.size >= leastTogether && a.size === b.size && [...a].every((moment) => b.has(moment));
        return isSame ? [[first, second, a.size]] : [];
      }),
    );
  }

  async function readKnown(businessId: string, { events: { wires } }: ReleaseContent): Promise<Lately['known']> {
    const keys = [...new Set(wires.map(({ account }) => account))];
    const known = await Promise.all(keys.map((key) => catalogues.known(businessId, key, patience)));
    return Object.fromEntries(keys.flatMap((key, at) => (known[at] === undefined ? [] : [[key, known[at]]])));
  }

  /** What changes where accounts begin to bid on outcomes. */
  async function readBidding(businessId: string, content: ReleaseContent, live: ReleaseContent) {
    const [counts, all] = await Promise.all([
      selectRows(
        db,
        { code: text(), times: whole().of('COUNT(*)') },
        'FROM outcomes WHERE business_id = ? AND counted_at >= ? GROUP BY code',
        [businessId, since()],
      ),
      accounts.all(businessId),
    ]);
    const timesOf = new Map(counts.map(({ code, times }) => [code, times]));
    return beginsToBid(content, live, timesOf, weeks, (key) => all.find((one) => one.key === key)?.name);
  }

  return async function beforeRelease({ business }: Membership): Promise<{ findings: ContentFinding[] }> {
    const { draft: content, live } = await draft.content(business.id);
    const bidding = await readBidding(business.id, content, live);
    if (content.events.events.length === 0) return { findings: bidding };
    const [forms, pages, presses, moved, pairs, all, known] = await Promise.all([
      selectRows(
        db,
        { form: text() },
        'FROM forms_seen WHERE business_id = ? AND last_at >= ? GROUP BY form LIMIT 2000',
        [business.id, since()],
      ),
      selectRows(
        db,
        { page: text(), arrivals: whole().of('SUM(arrivals)') },
        'FROM page_days WHERE business_id = ? AND day >= ? GROUP BY page LIMIT 20000',
        [business.id, since().toISOString().slice(0, 10)],
      ),
      readAllPresses(business.id),
      station.moved(business.id),
      readPairs(
        business.id,
        live.events.events.map(({ name }) => name),
      ),
      accounts.all(business.id),
      readKnown(business.id, content),
    ]);
    const events = findingsBeforeRelease(content, {
      weeks,
      forms: forms.map(({ form }) => form),
      paths: [...new Set(pages.map(({ page }) => page.slice(page.indexOf('/'))))],
      presses,
      moved,
      pairs,
      accounts: all.filter(({ pausedAt, retiredAt }) => !pausedAt && !retiredAt).map(({ key }) => key),
      known,
    });
    return { findings: [...bidding, ...events] };
  };
}
