import { cappedBrowsers } from '../../core/capture/capped';
import {
  cappedFaults,
  findingFaults,
  foldFindings,
  formFaults,
  idleFaults,
  policyMend,
  quarantineFaults,
  stoppedFaults,
  type CountedFinding,
  withoutSeenPages,
  type Fault,
} from '../../core/capture/faults';
import { mostCookieBytes } from '../../core/capture';
import { keptBytes, type FindingKind } from '../../core/capture/findings';
import { fieldsInCrm } from '../../core/capture/fields-in-crm';
import { judgeForms, type CrmFields, type SeenOnPage } from '../../core/capture/forms-seen';
import type { Stopped } from '../../core/capture/stopped';
import type { CaptureBase, FaultsView, FormsView, InstallView, KeptView } from '../../core/capture/station-view';
import type { CrmRule } from '../../core/leads';
import { pageFaultWords, type PageFault } from '../../core/links';
import { linksOf } from '../../core/platforms/links';
import { startClickId } from '../../core/rules/click-id';
import { mayChange } from '../../core/people/rights';
import type { ReleaseContent } from '../../core/releases';
import type { Sentence } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { plain } from '../db';
import { makeLastKnown } from '../last-known';
import type { Membership } from '../people/people';
import { observationStart, observationStartDay, weeks } from '../plan/plan';
import type { Draft } from '../releases/draft';
import {
  isRecorded,
  readFindings,
  readFollowedSendings,
  readEmptyCarries,
  readNewestKept,
  readPagesSeen,
  readQuarantine,
  readReturns,
  readSeenAmong,
  readStopped,
} from './queries';
import {
  faultsSentence,
  fieldsSentence,
  formsSentence,
  installSentence,
  keptSentence,
  mailOf,
} from './station-sentences';

const countedAnewAfter = 30_000;
const mostPages = 500;

/** The station Capture: what pages keep and fill, and what keeps values from arriving. */
export function makeCapture({ db, tables, config }: Context, draft: Draft) {
  /** Findings, without silent pages that told of themselves to others. */
  async function readFound(businessId: string): Promise<CountedFinding[]> {
    const findings = await readFindings(db, businessId, observationStartDay());
    const silent = [...new Set(findings.filter(({ kind }) => kind === 'page_silent').map(({ page }) => page))];
    return withoutSeenPages(findings, await readSeenAmong(db, businessId, silent, observationStartDay()));
  }

  /** Those of them that say where the line is missing or stands twice. */
  const readLineFindings = async (businessId: string) =>
    (await readFound(businessId)).filter(({ kind }) => isLineFinding(kind));

  async function readForms(businessId: string): Promise<SeenOnPage[]> {
    const rows = plain(
      await tables.formsSeen.findAll({ where: { businessId }, order: [['lastAt', 'DESC']], limit: mostPages }),
    );
    return rows.map(({ form, page, fields, fills, lastAt }) => ({
      form,
      page,
      fields,
      fills,
      lastAt: lastAt.getTime(),
    }));
  }

  /** What became in the CRM of what forms carried lately. */
  async function readInCrm(businessId: string, { capture, crm }: ReleaseContent) {
    const swapped = new Set(capture.fill.filter(({ swap }) => swap !== '').map(({ id }) => id));
    const sendings = await readFollowedSendings(db, businessId, observationStart());
    return fieldsInCrm(sendings, crmFields(crm), (rule) => swapped.has(rule));
  }

  /** Pages that the newest check found without the snippet or with it twice. */
  async function readCheckedPages(businessId: string) {
    const rows = plain(
      await tables.pageChecks.findAll({ where: { businessId }, order: [['askedAt', 'DESC']], limit: mostPages }),
    );
    const newest = new Map(
      rows
        .filter(({ checkedAt }) => checkedAt)
        .toReversed()
        .map((row) => [row.url, row]),
    );
    return [...newest.values()].flatMap(({ result, checkedAt }) => {
      const last = result?.steps.at(-1);
      if (!last || last.status !== 200) return [];
      const { host, pathname } = new URL(last.url);
      const page = host.replace(/:\d+$/, '') + pathname;
      const { steps, snippets, faults } = result!;
      return [{ page, steps, snippets, faults, checkedAt: checkedAt! }];
    });
  }

  const businessWebsites = async (businessId: string) =>
    plain(await tables.websites.findAll({ where: { businessId }, order: [['place', 'ASC']], limit: 50 }));

  async function faultsOf(businessId: string, content: ReleaseContent) {
    const { capture, crm } = content;
    const [findings, seen, inCrm, checked, returns, apart, stopped] = await Promise.all([
      readFound(businessId),
      readForms(businessId),
      readInCrm(businessId, content),
      readCheckedPages(businessId),
      readReturns(db, businessId, observationStartDay()),
      readQuarantine(db, businessId, observationStart()),
      readStopped(db, businessId, observationStart()),
    ]);
    const found = foldFindings(findings);
    const shown = new Set(found.filter(({ kind }) => isLineFinding(kind)).flatMap(({ pages }) => pages));
    const { forms, idle } = judgeForms(seen, capture, crmFields(crm), inCrm);
    const pages = checked.flatMap(({ page, faults, checkedAt }) =>
      faults
        // What arrivals show already is not said twice.
        .filter(
          ({ code }) =>
            code === 'policy_stops' || ((code === 'no_snippet' || code === 'snippet_twice') && !shown.has(page)),
        )
        .map((fault) => pageFault(page, fault, checkedAt)),
    );
    const isChecked = ({ page, directive }: Stopped) =>
      checked.some(
        (one) =>
          one.page === page &&
          one.faults.some((fault) => fault.code === 'policy_stops' && fault.directive === directive),
      );
    const unchecked = stopped.filter((one) => !isChecked(one));
    const faults = [
      ...stoppedFaults(unchecked.map((one) => ({ ...one, lastAt: one.lastAt.getTime() }))),
      ...formFaults(forms),
      ...(seen.length > 0 ? idleFaults(idle) : []),
      ...pages,
      ...cappedFaults(cappedBrowsers(returns), capture),
      ...findingFaults(found),
      ...quarantineFaults(apart.map(({ lastAt, ...rest }) => ({ ...rest, lastAt: lastAt.getTime() }))),
    ];
    return { faults, carried: found.filter(({ kind }) => kind === 'carried') };
  }

  const faultCount = makeLastKnown(
    async (businessId) => (await faultsOf(businessId, (await draft.content(businessId)).live)).faults.length,
    countedAnewAfter,
  );

  async function base(
    { business, role }: Membership,
    sentence: (content: ReleaseContent) => Sentence,
    known?: number,
  ): Promise<CaptureBase> {
    const [{ draft: edited, changed }, faults] = await Promise.all([
      draft.content(business.id),
      known ?? faultCount.get(business.id),
    ]);
    return {
      sentence: sentence(edited),
      rules: edited.capture,
      ownPlatforms: edited.platforms,
      changed,
      faults,
      weeks,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  async function judgedForms(membership: Membership, sentence: typeof formsSentence): Promise<FormsView> {
    const { draft: edited } = await draft.content(membership.business.id);
    const { id } = membership.business;
    const [seen, inCrm] = await Promise.all([readForms(id), readInCrm(id, edited)]);
    const { forms } = judgeForms(seen, edited.capture, crmFields(edited.crm), inCrm);
    return { ...(await base(membership, (content) => sentence(content, forms))), forms };
  }

  return {
    /** What every page of the station shows. */
    base,
    /** Forms as they were last seen on pages. */
    seenForms: readForms,
    /** What became in the CRM of what forms carried lately, by the live rules. */
    inCrm: async (businessId: string) => readInCrm(businessId, (await draft.content(businessId)).live),
    checkedPages: readCheckedPages,

    /** Faults by the live rules, counted anew every half a minute at most: every page shows it. */
    faultCount: (businessId: string): Promise<number> => faultCount.get(businessId),

    /** What keeps values from arriving, and what arrives that should not. */
    async faults(membership: Membership): Promise<FaultsView> {
      const { live } = await draft.content(membership.business.id);
      const { faults, carried } = await faultsOf(membership.business.id, live);
      const sentence = faultsSentence(faults, await isRecorded(db, membership.business.id));
      // What the other pages show must not lag behind what was just seen here.
      faultCount.forget(membership.business.id);
      return { ...(await base(membership, () => sentence, faults.length)), rows: faults, carried };
    },

    /** What pages keep, for how long and from what. */
    async kept(membership: Membership): Promise<KeptView> {
      const accounts = await tables.accounts.findAll({
        where: { businessId: membership.business.id },
        attributes: ['kind'],
      });
      const connected = new Set(plain(accounts).map(({ kind }) => kind));
      const known = await base(membership, keptSentence);
      const platforms = linksOf(known.ownPlatforms).map(({ kind, words, placeholders }) => ({
        kind,
        words,
        clickPlaceholder: placeholders.find(({ isClickId }) => isClickId)?.text ?? '',
        starts: startClickId(kind, known.ownPlatforms),
      }));
      platforms.sort((a, b) => Number(connected.has(b.kind)) - Number(connected.has(a.kind)));
      const kept = await readNewestKept(db, membership.business.id);
      const bytes = kept.map((one) => keptBytes(one, nowMs(), known.rules));
      const own = (await businessWebsites(membership.business.id))[0]?.registrable ?? '';
      return {
        ...known,
        platforms,
        ownEdge: `t.${own}`,
        emptyCarries: await readEmptyCarries(db, membership.business.id, observationStartDay()),
        bytes: bytes.length > 0 ? { most: Math.max(...bytes), limit: mostCookieBytes } : null,
      };
    },

    /** The fill rules with the forms they are for, by the draft. */
    fields: (membership: Membership): Promise<FormsView> => judgedForms(membership, fieldsSentence),

    /** Every form that pages told of, judged by the draft's rules. */
    forms: (membership: Membership): Promise<FormsView> => judgedForms(membership, formsSentence),

    /** The line to paste, and the pages where it was seen, is missing or stands twice. */
    async install(membership: Membership): Promise<InstallView> {
      const { business } = membership;
      const [findings, seen, checked, stopped, websites, { draft: edited }] = await Promise.all([
        readLineFindings(business.id),
        readPagesSeen(db, business.id, observationStartDay()),
        readCheckedPages(business.id),
        readStopped(db, business.id, observationStart()),
        businessWebsites(business.id),
        draft.content(business.id),
      ]);
      const { protocol, port } = new URL(config.edgeOrigin);
      // Where the server sets cookies, each website loads the line from its own subdomain.
      const lineFrom = (edge: string) => `<script src="${edge}/b/${business.key}.js" async></script>`;
      const hosts = websites.map(({ host }) => host);
      const lines =
        edited.capture.keep.setBy === 'server'
          ? websites.map(({ host, registrable }) => ({
              hosts: [host],
              line: lineFrom(`${protocol}//t.${registrable}${port ? `:${port}` : ''}`),
            }))
          : [{ hosts, line: lineFrom(config.edgeOrigin) }];
      const checks = new Map(checked.map((one) => [one.page, one]));
      const pages = new Map<string, InstallView['pages'][number]>(
        seen.map(({ page, arrivals, lastAt }) => [
          page,
          { page, arrivals, lastAt: lastAt.toISOString(), state: 'seen', checkedAt: null },
        ]),
      );
      // What arrivals showed of the line, before what page checks found later.
      for (const { kind, page, lastAt } of findings) {
        const before = pages.get(page);
        if (kind === 'snippet_twice' && before) pages.set(page, { ...before, state: 'twice' });
        if (kind === 'page_silent' && !before)
          pages.set(page, {
            page,
            arrivals: 0,
            lastAt: new Date(lastAt).toISOString(),
            state: 'missing',
            checkedAt: null,
          });
      }
      for (const { page, snippets, faults, checkedAt } of checks.values()) {
        const before = pages.get(page) ?? { page, arrivals: 0, lastAt: null };
        const isStopped = faults.some(({ code }) => code === 'policy_stops');
        const state = snippets === 0 ? 'missing' : isStopped ? 'stopped' : snippets > 1 ? 'twice' : 'seen';
        pages.set(page, { ...before, state, checkedAt: checkedAt.toISOString() });
      }
      for (const { page } of stopped) {
        const before = pages.get(page) ?? { page, arrivals: 0, lastAt: null, checkedAt: null };
        pages.set(page, { ...before, state: 'stopped' });
      }
      const rows = [...pages.values()].sort(
        (a, b) =>
          Number(a.state === 'seen') - Number(b.state === 'seen') ||
          b.arrivals - a.arrivals ||
          a.page.localeCompare(b.page),
      );
      return {
        ...(await base(membership, () => installSentence(rows, hosts))),
        lines,
        mail: mailOf(lines),
        pages: rows,
      };
    },
  };
}

export type CaptureStation = ReturnType<typeof makeCapture>;

/** Which field of the CRM holds which reading. */
function crmFields(crm: CrmRule | null): CrmFields {
  const fields = crm?.fields ?? {};
  const { click_id, source, medium, campaign, content, first_referrer } = fields;
  const all = { click_id, last_source: source, last_medium: medium, last_campaign: campaign };
  return Object.fromEntries(
    Object.entries({ ...all, last_content: content, first_referrer }).filter(([, field]) => field !== undefined),
  );
}

const isLineFinding = (kind: FindingKind) => kind === 'page_silent' || kind === 'snippet_twice';

function pageMend(fault: PageFault): string {
  if (fault.code === 'policy_stops') return policyMend(fault.directive, fault.origin);
  return fault.code === 'no_snippet' ? 'Paste the snippet into the page.' : 'Take out all but one of the snippets.';
}

function pageFault(page: string, fault: PageFault, checkedAt: Date): Fault {
  return {
    id: `page ${page} ${fault.code}`,
    what: pageFaultWords(fault),
    pages: [page],
    campaigns: [],
    times: null,
    mend: pageMend(fault),
    lastAt: checkedAt.getTime(),
  };
}
