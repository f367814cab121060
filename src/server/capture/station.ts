import { QueryTypes } from 'sequelize';
import {
  findingFaults,
  foldFindings,
  formFaults,
  idleFaults,
  type CountedFinding,
  type Fault,
} from '../../core/capture/faults';
import { judgeForms, type CrmFields, type SeenOnPage } from '../../core/capture/forms-seen';
import type {
  CaptureBase,
  FaultsView,
  FieldsView,
  FormsView,
  InstallView,
  KeptView,
} from '../../core/capture/station-view';
import type { CrmRule } from '../../core/leads';
import { pageFaultWords, type PageFault } from '../../core/links';
import { linkContracts } from '../../core/platforms/links';
import { mayChange } from '../../core/people/rights';
import type { ReleaseContent } from '../../core/releases';
import { counted, type Sentence } from '../../core/strands';
import type { Context } from '../context';
import { plain } from '../db';
import { makeLastKnown } from '../last-known';
import type { Membership } from '../people/people';
import { lookedAtSince, weeks } from '../plan/plan';
import type { Draft } from '../releases/draft';
import { readPagesSeen } from './queries';

const countedAnewAfter = 30_000;
const mostPages = 500;

/** The station Capture: what pages keep and fill, and what keeps values from arriving. */
export function makeCapture({ db, tables, config }: Context, draft: Draft) {
  async function readFindings(businessId: string): Promise<CountedFinding[]> {
    const rows = await db.query<Omit<CountedFinding, 'lastAt'> & { lastAt: Date }>(
      `SELECT kind, name, page, campaign, detail, COUNT(*) AS times, MAX(at) AS lastAt FROM findings
       WHERE business_id = ? AND at >= ? GROUP BY kind, name, page, campaign, detail ORDER BY times DESC LIMIT 5000`,
      { replacements: [businessId, lookedAtSince()], type: QueryTypes.SELECT },
    );
    return rows.map((row) => ({ ...row, times: Number(row.times), lastAt: row.lastAt.getTime() }));
  }

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
      return [{ page, snippets: result!.snippets, faults: result!.faults, checkedAt: checkedAt! }];
    });
  }

  async function faultsOf(businessId: string, { capture, crm }: ReleaseContent) {
    const [findings, seen, checked] = await Promise.all([
      readFindings(businessId),
      readForms(businessId),
      readCheckedPages(businessId),
    ]);
    const found = foldFindings(findings);
    const { forms, idle } = judgeForms(seen, capture, crmFields(crm));
    const pages = checked.flatMap(({ page, faults, checkedAt }) =>
      faults
        .filter(({ code }) => code === 'no_snippet' || code === 'snippet_twice')
        .map((fault) => pageFault(page, fault, checkedAt)),
    );
    const faults = [
      ...formFaults(forms),
      ...(seen.length > 0 ? idleFaults(idle) : []),
      ...pages,
      ...findingFaults(found),
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
  ): Promise<CaptureBase> {
    const [{ draft: edited, changed }, faults] = await Promise.all([
      draft.content(business.id),
      faultCount.get(business.id),
    ]);
    return {
      ...{ sentence: sentence(edited), rules: edited.capture, changed, faults, weeks },
      ...{ mayChange: mayChange(role), timeZone: business.timeZone },
    };
  }

  return {
    /** Faults by the live rules, counted anew every half a minute at most: every page shows it. */
    faultCount: (businessId: string): Promise<number> => faultCount.get(businessId),

    /** What keeps values from arriving, and what arrives that should not. */
    async faults(membership: Membership): Promise<FaultsView> {
      const { live } = await draft.content(membership.business.id);
      const { faults, carried } = await faultsOf(membership.business.id, live);
      const recorded = await tables.hits.findOne({ attributes: ['id'], where: { businessId: membership.business.id } });
      return {
        ...(await base(membership, () => faultsSentence(faults, recorded !== null))),
        faults: faults.length,
        rows: faults,
        carried,
      };
    },

    /** What pages keep, for how long and from what. */
    async kept(membership: Membership): Promise<KeptView> {
      const accounts = await tables.accounts.findAll({
        where: { businessId: membership.business.id },
        attributes: ['kind'],
      });
      const connected = new Set(plain(accounts).map(({ kind }) => kind));
      const platforms = linkContracts.map(({ kind, words, clickParameter }) => ({
        kind,
        words,
        parameter: clickParameter,
      }));
      platforms.sort((a, b) => Number(connected.has(b.kind)) - Number(connected.has(a.kind)));
      return { ...(await base(membership, keptSentence)), platforms };
    },

    /** The fill rules with the forms they are for, by the draft. */
    async fields(membership: Membership): Promise<FieldsView> {
      return this.forms(membership, fieldsSentence);
    },

    /** Every form that pages told of, judged by the draft's rules. */
    async forms(
      membership: Membership,
      sentence: (content: ReleaseContent, forms: FormsView['forms']) => Sentence = formsSentence,
    ): Promise<FormsView> {
      const { draft: edited } = await draft.content(membership.business.id);
      const seen = await readForms(membership.business.id);
      const { forms } = judgeForms(seen, edited.capture, crmFields(edited.crm));
      return { ...(await base(membership, (content) => sentence(content, forms))), forms };
    },

    /** The line to paste, and the pages where it was seen, is missing or stands twice. */
    async install(membership: Membership): Promise<InstallView> {
      const { business } = membership;
      const [seen, checked, websites] = await Promise.all([
        readPagesSeen(db, business.id, lookedAtSince()),
        readCheckedPages(business.id),
        tables.websites.findAll({ where: { businessId: business.id } }),
      ]);
      const line = `<script src="${config.edgeOrigin}/b/${business.key}.js" async></script>`;
      const hosts = plain(websites).map(({ host }) => host);
      const checks = new Map(checked.map((one) => [one.page, one]));
      const pages = new Map<string, InstallView['pages'][number]>(
        seen.map(({ page, arrivals, lastAt }) => [
          page,
          { page, arrivals, lastAt: lastAt.toISOString(), state: 'seen', checkedAt: null },
        ]),
      );
      for (const { page, snippets, checkedAt } of checks.values()) {
        const before = pages.get(page) ?? { page, arrivals: 0, lastAt: null };
        const state = snippets === 0 ? 'missing' : snippets > 1 ? 'twice' : 'seen';
        pages.set(page, { ...before, state, checkedAt: checkedAt.toISOString() });
      }
      const rows = [...pages.values()].sort(
        (a, b) => Number(a.state === 'seen') - Number(b.state === 'seen') || b.arrivals - a.arrivals,
      );
      return {
        ...(await base(membership, () => installSentence(rows, hosts))),
        line,
        mail: mailOf(line, hosts),
        pages: rows,
      };
    },
  };
}

/** Which field of the CRM holds which reading. */
function crmFields({ fields }: CrmRule): CrmFields {
  const { click_id, source, medium, campaign, content, first_referrer } = fields;
  const all = { click_id, last_source: source, last_medium: medium, last_campaign: campaign };
  return Object.fromEntries(
    Object.entries({ ...all, last_content: content, first_referrer }).filter(([, field]) => field !== undefined),
  );
}

function pageFault(page: string, fault: PageFault, checkedAt: Date): Fault {
  return {
    ...{ id: `page ${page} ${fault.code}`, what: pageFaultWords(fault), pages: [page], campaigns: [], times: null },
    mend: fault.code === 'no_snippet' ? 'Paste the line into the page.' : 'Take out all but one of the lines.',
    lastAt: checkedAt.getTime(),
  };
}

function faultsSentence(faults: Fault[], recorded: boolean): Sentence {
  if (!recorded)
    return {
      title: 'No page has told of itself yet.',
      under: 'Paste the line into your website; each page that has it shows here.',
    };
  if (faults.length === 0)
    return {
      title: 'Everything that arrives is caught.',
      under: `No fault was found in ${weeks} weeks, on any page or form that was seen.`,
    };
  return {
    title: `${counted(faults.length, 'fault stands', 'faults stand')} between what arrives and what reaches the forms.`,
    under: faults[0]!.what,
  };
}

const keptSentence = ({ capture: { keep, carry } }: ReleaseContent): Sentence => ({
  title: `${counted(keep.clickIds.length, 'platform’s click ID is', 'platforms’ click IDs are')} kept, and touches for ${keep.touchDays} days.`,
  under:
    carry.length > 0
      ? `${counted(carry.length, 'carry name saves', 'carry names save')} click IDs that browsers take out of addresses.`
      : 'No carry name is known: where a browser takes a click ID out of the address, it is gone.',
});

const fieldsSentence = ({ capture: { fill } }: ReleaseContent, forms: FormsView['forms']): Sentence => ({
  title:
    fill.length === 0
      ? 'No field is filled yet.'
      : `${counted(fill.length, 'rule fills', 'rules fill')} the forms of the website.`,
  under:
    forms.length === 0
      ? 'No form was seen yet; the first page with the line and a form shows it.'
      : `${counted(forms.length, 'form was', 'forms were')} seen; what each rule finds there stands beside it.`,
});

function formsSentence(_content: ReleaseContent, forms: FormsView['forms']): Sentence {
  const wrong = forms.filter(({ problems }) => problems.length > 0);
  if (forms.length === 0)
    return {
      title: 'No form was seen yet.',
      under: 'Each page with the line tells of its forms when somebody opens it: names of fields, never contents.',
    };
  return wrong.length === 0
    ? {
        title: `${forms.length === 1 ? 'The form that was seen is' : `All ${forms.length} forms that were seen are`} sound.`,
        under: 'Every hidden field is filled under the name that the CRM reads.',
      }
    : {
        title: `${wrong.length} of ${counted(forms.length, 'form', 'forms')} ${wrong.length === 1 ? 'loses' : 'lose'} something.`,
        under: 'Named from the fields alone, before anybody sends them.',
      };
}

function installSentence(pages: InstallView['pages'], hosts: string[]): Sentence {
  const missing = pages.filter(({ state }) => state === 'missing').length;
  const twice = pages.filter(({ state }) => state === 'twice').length;
  if (pages.length === 0)
    return {
      title: `Paste one line into every page of ${hosts[0] ?? 'your website'}.`,
      under: 'Before the end of the head; it loads beside the page and never holds it up.',
    };
  const seen = pages.length - missing - twice;
  return {
    title: `The line was seen on ${counted(seen + twice, 'page', 'pages')}${missing > 0 ? ` and is missing on ${missing}` : ''}.`,
    under:
      twice > 0
        ? `It stands twice on ${counted(twice, 'page', 'pages')}; once is right.`
        : `Pages tell of themselves in ${weeks} weeks’ traffic, page checks of the others.`,
  };
}

const mailOf = (line: string, hosts: string[]) => ({
  subject: `One line for ${hosts[0] ?? 'our website'}`,
  body: `Hello,

this line belongs into the head of every page of ${hosts.join(', ') || 'our website'}, once:

${line}

It loads beside the page, sets first-party cookies, fills hidden fields of our forms and raises no error of its own.
Where the website has a content security policy, it needs the line's host in script-src and connect-src.

Thank you`,
});
