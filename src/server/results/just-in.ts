/* eslint-disable no-await-in-loop -- what came in is read again once what was read before is sent */
import { setTimeout as wait } from 'node:timers/promises';
import { pageOf } from '../../core/capture/address';
import { hitWords } from '../../core/capture/hit-words';
import { tellingWords } from '../../core/events/telling-states';
import { quoteValue } from '../../core/quote-value';
import { markWords } from '../../core/reasons/words';
import { formWordsOf, type Release } from '../../core/releases';
import { justInSentence } from '../../core/results/just-in';
import {
  justInSpan,
  mostJustIn,
  type JustInKind,
  type JustInQuery,
  type JustInRow,
  type JustInView,
} from '../../core/results/just-in-view';
import type { Hit } from '../../core/capture';
import { waysIn } from '../../core/ways-in';
import { nowMs } from '../clock';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { dayWords } from '../days';
import { called, nameless } from '../leads/called';
import type { Membership } from '../people/people';
import type { Releases } from '../releases/releases';
import {
  countCameIn,
  readAnswersIn,
  readEnquiriesIn,
  readEventsIn,
  readHitsIn,
  readNewestHit,
  readOrdersIn,
  readTellingsIn,
  type Since,
} from './just-in-queries';

/** How far back (ms) a list begins, and how late something may come in and still be listed while somebody looks. */
const begins = 7 * 86_400_000;
const late = 10 * 60_000;
/** Between two looks (ms), and after how many of them the browser asks anew, with its rights. */
const between = 1000;
const looks = 300;

/** What comes in, as it comes in, by whatever process: it is read from where it is stored. */
export function makeJustIn(context: Context, releases: Releases, connections: Pick<Connections, 'names'>) {
  const { db } = context;

  const readers: Record<JustInKind, (membership: Membership, since: Since, live: Release) => Promise<JustInRow[]>> = {
    async hit({ business }, since, live) {
      const forms = formWordsOf(live);
      return (await readHitsIn(db, business.id, since)).map(({ id, at, body, page, marked, ...hit }) => ({
        id,
        kind: 'hit',
        at: at.toISOString(),
        what: hitWords(body, forms),
        note: cameFrom(body),
        page,
        mark: markWords[marked],
        release: hit.releaseNumber,
        browser: hit.visitorId,
        path: null,
      }));
    },

    async event({ business }, since) {
      return (await readEventsIn(db, business.id, since)).map((event) => ({
        id: event.id,
        kind: 'event',
        at: event.at.toISOString(),
        what: `${quoteValue(event.name)} went off, once for its key.`,
        note: '',
        page: pageOf(event.page),
        mark: markWords[event.marked],
        release: event.releaseNumber,
        browser: event.visitorId,
        path: `/events?event=${encodeURIComponent(event.name)}`,
      }));
    },

    async lead({ business, role }, since, live) {
      const forms = formWordsOf(live);
      const [enquiries, orders] = await Promise.all([
        readEnquiriesIn(db, business.id, since, role.seesPeople),
        readOrdersIn(db, business.id, since),
      ]);
      return [
        ...enquiries.map((enquiry): JustInRow => {
          const name = enquiry.name === null ? nameless(enquiry.wayIn) : called(enquiry, role.seesPeople);
          const by = enquiry.form === '' ? waysIn[enquiry.wayIn].one : forms(enquiry.form);
          return {
            id: enquiry.id,
            kind: 'lead',
            at: enquiry.sentAt.toISOString(),
            what: `${name}: ${by}.`,
            note: '',
            page: enquiry.page,
            mark: markWords[enquiry.marked],
            release: enquiry.releaseNumber,
            browser: enquiry.visitorId,
            path: `/leads/${enquiry.id}`,
          };
        }),
        ...orders.map((order): JustInRow => ({
          id: order.id,
          kind: 'lead',
          at: order.at.toISOString(),
          what: `Order ${quoteValue(order.number)}.`,
          note: '',
          page: order.page,
          mark: markWords[order.marked],
          release: order.releaseNumber,
          browser: order.visitorId,
          path: order.strands[0] ? `/strands/${order.strands[0]}?way=order` : null,
        })),
      ];
    },

    async answer({ business }, since, live) {
      const [answers, tellings, names] = await Promise.all([
        since.whose === 'marked' ? [] : readAnswersIn(db, business.id, since),
        readTellingsIn(db, business.id, since),
        connections.names(business.id),
      ]);
      const nameOf = (account: string) => names.find(({ key }) => key === account)?.name ?? account;
      const wordsOf = (code: string) => live.content.outcomes.find((rule) => rule.code === code)?.words ?? code;
      return [
        ...answers.map((answer): JustInRow => ({
          id: answer.id,
          kind: 'answer',
          at: answer.endedAt.toISOString(),
          what: `${nameOf(answer.account)} on ${wordsOf(answer.code)} (${quoteValue(answer.code)}): ${answer.answer || answer.status}.`,
          note: '',
          page: '',
          mark: '',
          release: null,
          browser: answer.visitorId,
          path: `/report-backs/queue/${answer.reportBackId}`,
        })),
        ...tellings.map((telling): JustInRow => ({
          id: telling.id,
          kind: 'answer',
          at: telling.at.toISOString(),
          what: `${nameOf(telling.account)} on ${quoteValue(telling.event)}: ${tellingWords[telling.state]}.`,
          note: telling.reason || (telling.toldBy === 'page' ? 'told by the page' : ''),
          page: pageOf(telling.page),
          mark: markWords[telling.marked],
          release: null,
          browser: telling.visitorId,
          path: `/events/told?event=${encodeURIComponent(telling.event)}`,
        })),
      ];
    },
  };

  async function read(membership: Membership, query: JustInQuery, from: number, live: Release): Promise<JustInRow[]> {
    const { find, whose, browser } = query;
    if (whose === 'browser' && browser === '') return [];
    const since: Since = { from: new Date(from), find, whose, browser, limit: mostJustIn };
    const found = await Promise.all(query.kinds.map((kind) => readers[kind](membership, since, live)));
    return found
      .flat()
      .sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0))
      .slice(0, mostJustIn);
  }

  async function sentenceOf({ business }: Membership, live: Release) {
    const from = new Date(nowMs() - justInSpan);
    const came = await countCameIn(db, business.id, from, live.number);
    const newest = came.hits > 0 ? null : await readNewestHit(db, business.id);
    return justInSentence({
      ...came,
      minutes: justInSpan / 60_000,
      release: live.number,
      liveSince: dayWords(live.madeAt, business.timeZone),
      newest: newest ? dayWords(newest.getTime(), business.timeZone) : '',
    });
  }

  async function view(membership: Membership, query: JustInQuery, from = nowMs() - begins): Promise<JustInView> {
    const { business } = membership;
    const live = await releases.live(business.id);
    const [sentence, rows] = await Promise.all([sentenceOf(membership, live), read(membership, query, from, live)]);
    return { sentence, rows, timeZone: business.timeZone };
  }

  return {
    view: (membership: Membership, query: JustInQuery) => view(membership, query),

    /**
     * What comes in from now on, looked for each second: first all that is listed, then only what was not sent before; null where
     * nothing changed. It ends after some minutes, and the browser asks anew.
     */
    async *follow(membership: Membership, query: JustInQuery): AsyncGenerator<JustInView | null> {
      const sent = new Map<string, string>();
      let said = '';
      for (let look = 0; look < looks; look++) {
        if (look > 0) await wait(between, undefined, { ref: false });
        const found = await view(membership, query, look === 0 ? undefined : nowMs() - late);
        const rows = found.rows.filter(({ id, what, at }) => sent.get(id) !== what + at);
        for (const { id, what, at } of rows) sent.set(id, what + at);
        const isNew = rows.length > 0 || found.sentence.title + found.sentence.under !== said;
        said = found.sentence.title + found.sentence.under;
        yield isNew ? { ...found, rows } : null;
      }
    },
  };
}

/** Where an arrival that starts a touch came from: its platform and tags, else its referrer; '' for every other hit. */
function cameFrom(hit: Hit): string {
  if (hit.kind !== 'arrived') return '';
  const { last } = hit.kept;
  if (hit.why === 'campaign_values' || hit.why === 'click_id_new') {
    const values = last ? [last.source, last.medium, last.campaign].filter(Boolean) : [];
    return values.map(quoteValue).join(' · ');
  }
  return hit.why === 'outside_referrer'
    ? `from ${quoteValue(hit.referrer.replace(/^[a-z-]+:\/\//i, '').split('/')[0]!)}`
    : '';
}
