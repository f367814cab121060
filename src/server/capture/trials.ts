import { randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import { batchSchema, hitSchema, type Hit } from '../../core/capture/schema';
import type { Seen } from '../../core/capture/seen';
import { trialLink, trialPages } from '../../core/capture/trial';
import type { TrialView } from '../../core/capture/trial-view';
import type { ReleaseContent } from '../../core/releases';
import { linkPlan } from '../../core/links';
import { scriptLiteral } from '../../core/capture/snippet-script';
import { mayChange } from '../../core/people/rights';
import { readBodyAs } from '../../core/read-as';
import { counted } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { insertRows, inTransaction, plain, type TrialRow } from '../db';
import type { Connections } from '../connections/connections';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { readCampaignNames } from '../plan/queries';
import { requireEditor, type Draft } from '../releases/draft';
import { readOrigin } from './origin';

/** How long (ms) rules are tried before the trial ends by itself. */
const trialLasts = 2 * 3_600_000;
const mostHits = 300;
const mostPages = 12;

/** What a tab that takes part in a trial works by. */
export interface TriedRules {
  tab: string;
  content: ReleaseContent;
  seen: Seen;
}

/** One's own trial, as far as it went. */
export interface OwnTrial {
  rules: TrialRow['rules'];
  content: ReleaseContent;
  hits: Hit[];
  /** Lets a tab in; '' where no website is known. */
  link: string;
}

export type Trials = ReturnType<typeof makeTrials>;

/**
 * Rules that are not live yet, tried in one's own browser: it loads the draft's rules by a link, and what it tells stands
 * apart from all that is counted, until the trial ends.
 */
export function makeTrials({ db, tables, config }: Context, draft: Draft, connections: Pick<Connections, 'names'>) {
  /** The trial that goes on under a name; null where there is none. */
  async function running(
    businessId: string,
    where: { token: string } | { personId: string } | { id: string },
  ): Promise<TrialRow | null> {
    const row = await tables.trials.findOne({
      where: { businessId, ...where, endsAt: { [Op.gt]: now() } },
      order: [['madeAt', 'DESC']],
    });
    return row?.get({ plain: true }) ?? null;
  }

  /** The trial that a tab takes part in; null where it takes part in none. */
  async function ofTab(businessId: string, tab: string): Promise<TrialRow | null> {
    const known = await tables.trialTabs.findOne({ where: { businessId, tab } });
    return known ? running(businessId, { id: known.get('trialId') as string }) : null;
  }

  /** Lets one tab in by the link that there is, which is of use to nobody after it. @returns the tab's own name, null where another came first */
  async function letIn({ businessId, id, token }: TrialRow): Promise<string | null> {
    const tab = secret();
    return inTransaction(db, async (transaction) => {
      const where = { businessId, id, token };
      const [count] = await tables.trials.update({ token: secret() }, { where, transaction });
      if (count !== 1) return null;
      await tables.trialTabs.create({ businessId, tab, trialId: id }, { transaction });
      return tab;
    });
  }

  /** Forgets trials, with what browsers told in them. */
  async function forget(businessId: string, ids: string[]): Promise<void> {
    if (ids.length === 0) return;
    await inTransaction(db, async (transaction) => {
      await tables.trialHits.destroy({ where: { businessId, trialId: ids }, transaction });
      await tables.trialTabs.destroy({ where: { businessId, trialId: ids }, transaction });
      await tables.trials.destroy({ where: { businessId, id: ids }, transaction });
    });
  }

  return {
    /**
     * The rules that are tried, with what is shown beside them, for a tab that takes part or comes by a link; null where no
     * trial goes on under that name. A link lets one tab in; the next one needs another.
     *
     * @param name a tab's own, or the link's
     */
    async rules(businessId: string, name: string): Promise<TriedRules | null> {
      const [known, invited] = await Promise.all([ofTab(businessId, name), running(businessId, { token: name })]);
      const trial = known ?? invited;
      const tab = known ? name : trial && (await letIn(trial));
      if (!trial || !tab) return null;
      const [contents, accounts] = await Promise.all([draft.content(businessId), connections.names(businessId)]);
      const content = contents[trial.rules];
      return {
        tab,
        content,
        seen: {
          rules: trial.rules,
          wires: content.events.wires,
          platforms: content.platforms,
          accounts: Object.fromEntries(accounts.map(({ key, name }) => [key, name])),
        },
      };
    },

    /** Keeps what a browser told in a trial, as far as it can be read; of one that has ended nothing. */
    async take(businessId: string, tab: string, body: string): Promise<void> {
      const trial = await ofTab(businessId, tab);
      if (!trial) return;
      const { hits } = readBodyAs(batchSchema, body);
      const known = await tables.trialHits.count({ where: { businessId, trialId: trial.id } });
      const rows = hits.slice(0, Math.max(0, mostHits - known)).flatMap((given) => {
        const { data } = hitSchema.safeParse(given);
        return data ? [{ businessId, trialId: trial.id, id: data.id, hit: data }] : [];
      });
      await inTransaction(db, (transaction) => insertRows(tables.trialHits, rows, [], transaction));
    },

    async view({ business, role }: Membership): Promise<TrialView> {
      const { id: businessId } = business;
      const { personId } = role;
      const [content, trial] = await Promise.all([draft.content(businessId), running(businessId, { personId })]);
      const changes = content.changed.length;
      const base = { changes, mayChange: mayChange(role), timeZone: business.timeZone };
      if (!trial)
        return {
          ...base,
          trial: null,
          sentence: {
            title:
              changes === 0
                ? 'Everything is live; see on your own pages what Avrix keeps, fills and sets off.'
                : `See ${counted(changes, 'rule', 'rules')} at work on your own pages before they are live.`,
            under: 'Only your browser works by them; nothing of it is counted or told, and it gets back what it kept.',
          },
        };
      const [hits, websites, landings, campaigns] = await Promise.all([
        tables.trialHits.findAll({ where: { businessId, trialId: trial.id }, limit: mostHits }),
        tables.websites.findAll({ where: { businessId }, order: [['place', 'ASC']], limit: 5 }),
        tables.links.findAll({
          attributes: ['landing'],
          where: { businessId },
          order: [['madeAt', 'DESC']],
          limit: 100,
        }),
        readCampaignNames(db, businessId),
      ]);
      const { capture, platforms } = content[trial.rules];
      const origins = await Promise.all(plain(websites).map(({ host }) => readOrigin(db, businessId, host)));
      const pages = new Set([
        ...plain(landings).map(({ landing }) => landing),
        ...origins.map((origin) => `${origin}/`),
      ]);
      const plan = linkPlan(content.draft, campaigns);
      const script = `${config.edgeOrigin}/try/${business.key}/`;
      const told = trialPages(
        plain(hits).map(({ hit }) => hit),
        capture,
        platforms,
      );
      return {
        ...base,
        trial: {
          id: trial.id,
          rules: trial.rules,
          endsAt: trial.endsAt.toISOString(),
          pages: told.slice(0, mostPages),
          links: [...pages].slice(0, mostPages).map((page) => ({
            page,
            link: trialLink(new URL(page), plan, capture, trial.token),
          })),
          bookmarklet: `javascript:(()=>{const s=document.createElement('script');s.src=${scriptLiteral(script)}+(sessionStorage.getItem('avx_trial')||${scriptLiteral(trial.token)})+'.js';document.head.append(s)})()`,
        },
        sentence: trialSentence(
          trial.rules,
          told.length,
          told.flatMap(({ forms }) => forms.flatMap(({ fields }) => fields)),
        ),
      };
    },

    /** What browsers told in one's own trial, by whose rules, and the link that lets a tab in; null where none goes on. */
    async hitsOf({ business, role }: Membership): Promise<OwnTrial | null> {
      const trial = await running(business.id, { personId: role.personId });
      if (!trial) return null;
      const [rows, contents, website] = await Promise.all([
        tables.trialHits.findAll({ where: { businessId: business.id, trialId: trial.id }, limit: mostHits }),
        draft.content(business.id),
        tables.websites.findOne({ where: { businessId: business.id }, order: [['place', 'ASC']] }),
      ]);
      const host = website?.get({ plain: true }).host ?? '';
      return {
        hits: plain(rows).map(({ hit }) => hit),
        rules: trial.rules,
        content: contents[trial.rules],
        link: host ? `${await readOrigin(db, business.id, host)}/?avx_try=${trial.token}` : '',
      };
    },

    /** Begins a trial for whoever asks; one of theirs that goes on ends. */
    async begin(membership: Membership, rules: TrialRow['rules']): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      const { personId } = role;
      const ended = await tables.trials.findAll({
        attributes: ['id'],
        where: { businessId: business.id, [Op.or]: [{ personId }, { endsAt: { [Op.lte]: now() } }] },
        limit: 1000,
      });
      await forget(
        business.id,
        plain(ended).map(({ id }) => id),
      );
      await tables.trials.create({
        businessId: business.id,
        id: newId(),
        personId,
        token: secret(),
        rules,
        madeAt: now(),
        endsAt: new Date(nowMs() + trialLasts),
      });
    },

    /** Ends one's own trial; what was told in it is forgotten. */
    async end(membership: Membership): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      const trial = await running(business.id, { personId: role.personId });
      if (trial) await forget(business.id, [trial.id]);
    },
  };
}

const secret = () => randomBytes(16).toString('hex');

function trialSentence(rules: TrialRow['rules'], pages: number, fields: { state: string }[]): TrialView['sentence'] {
  const by = rules === 'draft' ? 'by the draft' : 'by what is live';
  if (pages === 0)
    return {
      title: 'Open one of the links in your browser.',
      under: `What it keeps, fills and sets off ${by} is shown on the page itself, and here within seconds. A form that you send is a real one.`,
    };
  const filled = fields.filter(({ state }) => state === 'filled').length;
  return {
    title:
      fields.length === 0
        ? `Your browser opened ${counted(pages, 'page', 'pages')} ${by}; it saw no form with a rule yet.`
        : `Your browser opened ${counted(pages, 'page', 'pages')} ${by}: ${filled} of ${counted(fields.length, 'field', 'fields')} filled.`,
    under: 'End the trial when you have seen enough; your browser then gets back what it kept.',
  };
}
