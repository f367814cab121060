import { splitAddress } from '../../core/capture';
import { passes } from '../../core/events/compare';
import { namesThere, withNames } from '../../core/events/named-there';
import { conversionHappening, type Happening, type ReachedBy } from '../../core/outcomes';
import type { ReleaseContent } from '../../core/releases';
import { clickStrandId } from '../../core/strands';
import type { DerivedConversion } from '../../core/strands/visitor-conversions';
import type { Context } from '../context';
import { pick, selectRows, type Read } from '../db';
import { groupBy } from '../../core/group-by';
import { readEveryPage } from '../capture/queries';
import { hits, touches } from '../capture/table';
import { events } from '../events/table';
import { observationStart } from '../plan/plan';

/** Something that happened on the website lately, with the clicks that it would be counted for. */
export interface WebsiteSubject {
  id: string;
  words: string;
  at: Date;
  strands: string[];
  happening: Happening;
}

/** How often something went off or was reached that is looked at, the newest first; more take longer than a person waits. */
const mostLooked = 8000;

/** What happened on the website in the last weeks that an outcome may be reached by, before it was one. */
export function makeWebsiteEffect({ db }: Context) {
  const clicked = pick(touches, ['visitorId', 'at', 'platform', 'clickId']);

  /** The newest click of each platform, of a browser before a moment, as its strand. */
  async function readClicks(businessId: string, visitorIds: string[]) {
    const rows =
      visitorIds.length === 0
        ? []
        : await selectRows(
            db,
            clicked,
            `FROM touches WHERE business_id = ? AND visitor_id IN (?) AND click_id <> '' ORDER BY at DESC`,
            [businessId, visitorIds],
          );
    const of = groupBy(rows, ({ visitorId }) => visitorId);
    return (visitorId: string, at: Date): string[] => {
      const latest = new Map<string, Read<typeof clicked>>();
      for (const touch of of.get(visitorId) ?? [])
        if (touch.at <= at && !latest.has(touch.platform)) latest.set(touch.platform, touch);
      return [...latest.values()].map(({ platform, clickId }) => clickStrandId(businessId, platform, clickId));
    };
  }

  async function asSubjects(
    businessId: string,
    found: (Pick<DerivedConversion, 'id' | 'kind' | 'name' | 'fields' | 'amounts'> & { at: Date; visitorId: string })[],
  ): Promise<WebsiteSubject[]> {
    const clicks = await readClicks(businessId, [...new Set(found.map(({ visitorId }) => visitorId))]);
    return found.map(({ at, visitorId, ...one }) => {
      const strands = clicks(visitorId, at);
      const happening = conversionHappening({ ...one, strands }, at.getTime(), visitorId);
      return { id: one.id, words: one.name, at, strands, happening };
    });
  }

  async function readEvents(businessId: string, name: string, { events: rules, platforms }: ReleaseContent) {
    const names = namesThere(name, rules.wires, platforms);
    const unitOf = new Map(rules.readings.map(({ id, as, unit }) => [id, as === 'number' ? unit : '']));
    const rows = await selectRows(
      db,
      pick(events, ['id', 'name', 'visitorId', 'at', 'readings']),
      `FROM events WHERE business_id = ? AND name = ? AND at >= ? AND marked = '' ORDER BY at DESC LIMIT ${mostLooked}`,
      [businessId, name, observationStart()],
    );
    return rows.map(({ readings, ...row }) => ({
      ...row,
      kind: 'event' as const,
      fields: withNames(readings, names),
      amounts: readings.flatMap(({ reading, value }) => {
        const currency = unitOf.get(reading) ?? '';
        return currency === '' ? [] : [{ name: reading, amount: value, currency }];
      }),
    }));
  }

  async function readPages(businessId: string, { test, text: wanted }: Extract<ReachedBy, { kind: 'page' }>) {
    const start = observationStart();
    const pathOf = (page: string) => splitAddress(`http://${page}`)?.path ?? '';
    const known = await readEveryPage(db, businessId, start);
    const pages = known.filter((page) => passes(test, pathOf(page), wanted));
    if (pages.length === 0) return [];
    const rows = await selectRows(
      db,
      pick(hits, ['id', 'visitorId', 'at', 'page']),
      `FROM hits FORCE INDEX (by_time) WHERE business_id = ? AND at >= ? AND kind = 'arrived' AND page IN (?)
       AND bot = 0 AND own_network = 0 ORDER BY at DESC LIMIT ${mostLooked}`,
      [businessId, start, pages],
    );
    return rows.map(({ page, ...row }) => ({
      ...row,
      kind: 'page' as const,
      name: pathOf(page),
      fields: {},
      amounts: [],
    }));
  }

  return async (businessId: string, by: ReachedBy, content: ReleaseContent): Promise<WebsiteSubject[]> => {
    if (by.kind === 'event') return asSubjects(businessId, await readEvents(businessId, by.event, content));
    return by.kind === 'page' ? asSubjects(businessId, await readPages(businessId, by)) : [];
  };
}
