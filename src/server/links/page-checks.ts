/* eslint-disable no-await-in-loop -- a redirect follows the one before; one statement for each host */
import {
  releaseNamed,
  judgePage,
  pageFaultWords,
  snippetsOn,
  type PageCheckResult,
  type PageStep,
} from '../../core/links';
import { policiesOf, stoppedBy } from '../../core/links/content-policy';
import { readLanding } from '../../core/links/landing';
import { lookOver, type OnPage } from '../../core/links/on-page';
import { offersFrom } from '../../core/links/take-over';
import type { PageCheckView, PageChecksView } from '../../core/links/view';
import { fieldsWrong } from '../../core/errors';
import { mayChange } from '../../core/people/rights';
import type { ReleaseContent } from '../../core/releases';
import { counted } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, plain, type PageCheckRow } from '../db';
import type { Answer } from '../http';
import { groupBy } from '../../core/group-by';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor, type Draft } from '../releases/draft';
import { sha256 } from '../secrets';

/** How often (ms) the pages of links in use are checked. */
const week = 7 * 86_400_000;
const mostSteps = 10;
const mostShown = 200;
/** The page's owner sees in the log who asked. */
const headers = { 'user-agent': 'Avrix page check', accept: 'text/html,*/*;q=0.1' };

/** Opens landing pages as a visitor's browser would, without running them, and says what is wrong on the way. */
export function makePageChecks({ db, tables, http }: Context, draft: Draft) {
  /** Follows a link step by step. `why` says why the last step was not answered. */
  async function follow(link: string): Promise<{ steps: PageStep[]; html: string; policy: string; why: string }> {
    const steps: PageStep[] = [];
    let url = link;
    while (steps.length < mostSteps) {
      let answer: Answer;
      try {
        answer = await http(url, { headers });
      } catch (error) {
        return { steps, html: '', policy: '', why: (error as Error).message };
      }
      const to = answer.status >= 300 && answer.status < 400 ? nextStep(url, answer.headers.location ?? '') : '';
      steps.push({ url, status: answer.status, to });
      const policy = answer.headers['content-security-policy'] ?? '';
      if (to === '') return { steps, html: answer.body, policy, why: '' };
      url = to;
    }
    return { steps, html: '', policy: '', why: '' };
  }

  /** Which release the page's script works by, asked of the script itself. */
  async function askSnippet(src: string, page: string): Promise<{ release: number | null; why: string }> {
    try {
      const { status, body } = await http(new URL(src, page).href, { headers });
      return status === 200 ? { release: releaseNamed(body), why: '' } : { release: null, why: `it answers ${status}` };
    } catch (error) {
      return { release: null, why: (error as Error).message };
    }
  }

  async function check(link: string, business: string): Promise<PageCheckResult> {
    const { steps, html, policy, why } = await follow(link);
    const judged = { ...judgePage(steps, html, business, { why, mostSteps }), ...foundOn(steps, html, business) };
    if (judged.snippets === 0) return { ...judged, release: null };
    const { src } = snippetsOn(html, business);
    const page = new URL(steps.at(-1)!.url);
    const { release, why: silent } = await askSnippet(src, page.href);
    const faults = [...judged.faults];
    if (silent) faults.push({ code: 'snippet_silent', why: silent });
    const directive = stoppedBy(policiesOf(policy, html), new URL(src, page), page);
    if (directive) faults.push({ code: 'policy_stops', directive, origin: new URL(src, page).origin });
    return { ...judged, faults, release };
  }

  /** Stores checks that are wanted, as work of their hosts. @returns their IDs */
  async function queue(businessId: string, urls: string[]): Promise<string[]> {
    const rows = urls.map((url): PageCheckRow => ({
      businessId,
      id: newId(),
      url,
      urlHash: sha256(url),
      state: 'waiting',
      result: null,
      askedAt: now(),
      checkedAt: null,
    }));
    await inTransaction(db, async (transaction) => {
      await tables.pageChecks.bulkCreate(rows, { transaction });
      for (const [host, own] of groupBy(rows, ({ url }) => new URL(url).host.slice(0, 80))) {
        const ids = own.map(({ id }) => id);
        await markWork(db, 'page_check', businessId, ids, now(), transaction, host);
      }
    });
    return rows.map(({ id }) => id);
  }

  return {
    /** Asks for checks of addresses; they run in the background. @throws AVX_FIELD_WRONG */
    async ask(membership: Membership, urls: string[]): Promise<string[]> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const read = urls.map((text, index) => {
        const landing = readLanding(text);
        if (!('problem' in landing)) return landing.url.href;
        const { was, fix } = landing.problem;
        throw fieldsWrong([{ field: `urls.${index}`, was, fix }]);
      });
      return queue(businessId, read);
    },

    /**
     * Asks for checks of the pages of links, those in use alone.
     * @returns when each is due again: in a week, or never
     */
    async askForLinks(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
      const where = { businessId, id: ids, retiredAt: null };
      const used = plain(await tables.links.findAll({ attributes: ['id', 'url'], where }));
      if (used.length > 0) await queue(businessId, [...new Set(used.map(({ url }) => url))]);
      const again = new Date(nowMs() + week);
      return new Map(used.map(({ id }) => [id, again]));
    },

    /** Runs one check that was asked for. */
    async run(businessId: string, id: string): Promise<null> {
      const row = (await tables.pageChecks.findOne({ where: { businessId, id } }))?.get({ plain: true });
      const business = await tables.businesses.findOne({ where: { id: businessId } });
      if (!row || !business || row.state !== 'waiting') return null;
      const result = await check(row.url, business.get({ plain: true }).key);
      const state = result.faults.length === 0 ? 'good' : 'bad';
      await tables.pageChecks.update({ state, result, checkedAt: now() }, { where: { businessId, id } });
      return null;
    },

    /** The newest checks. */
    async view({ business, role }: Membership): Promise<PageChecksView> {
      const { draft: content } = await draft.content(business.id);
      const rows = plain(
        await tables.pageChecks.findAll({
          where: { businessId: business.id },
          order: [
            ['askedAt', 'DESC'],
            ['id', 'DESC'],
          ],
          limit: mostShown,
        }),
      );
      const waiting = rows.filter(({ state }) => state === 'waiting').length;
      const newest = newestOf(rows);
      return {
        sentence: checksSentence(rows, waiting),
        // What a page does is offered at its newest check.
        rows: rows.map((row) => checkView(row, newest.get(row.url) === row ? content : null)),
        waiting,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },
  };
}

/** What a page does already; nothing where it did not answer. */
function foundOn(steps: PageStep[], html: string, business: string): { found?: OnPage } {
  const last = steps.at(-1);
  if (last?.status !== 200 || html === '') return {};
  const page = new URL(last.url);
  const { src } = snippetsOn(html, business);
  const own = [page.host, src && new URL(src, page).host];
  return { found: lookOver(html, page.href, (host) => own.includes(host)) };
}

/** Where a page sends on; '' where what it names is no address. */
function nextStep(url: string, location: string): string {
  try {
    return location === '' ? '' : new URL(location, url).href;
  } catch {
    return '';
  }
}

function checkView(
  { id, url, state, askedAt, checkedAt, result }: PageCheckRow,
  content: ReleaseContent | null,
): PageCheckView {
  return {
    id,
    url,
    state,
    askedAt: askedAt.toISOString(),
    checkedAt: checkedAt?.toISOString() ?? null,
    steps: result?.steps ?? [],
    words: (result?.faults ?? []).map(pageFaultWords),
    snippets: result?.snippets ?? 0,
    release: result?.release ?? null,
    found: result?.found && content ? offersFrom(result.found, result.steps.at(-1)!.url, content) : [],
  };
}

/** The newest check of each address. @param rows newest first */
const newestOf = (rows: PageCheckRow[]): Map<string, PageCheckRow> =>
  new Map(rows.toReversed().map((row) => [row.url, row]));

function checksSentence(rows: PageCheckRow[], waiting: number): PageChecksView['sentence'] {
  const under =
    'A check opens the page as a visitor would: every redirect, whether the query survives, whether the snippet is there.';
  if (rows.length === 0) return { title: 'No page is checked yet.', under };
  if (waiting > 0)
    return {
      title: `${counted(waiting, 'page is', 'pages are')} being checked; ${rows.length - waiting} are done.`,
      under,
    };
  const newest = newestOf(rows);
  const bad = [...newest.values()].filter(({ state }) => state === 'bad').length;
  const pages = counted(newest.size, 'checked page', 'checked pages');
  return bad === 0
    ? { title: `${pages === '1 checked page' ? 'The checked page is' : `All ${pages} are`} sound.`, under }
    : { title: `${bad} of ${pages} ${bad === 1 ? 'has' : 'have'} something wrong.`, under };
}
