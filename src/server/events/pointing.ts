import { createHash, randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import { leadsTo, meetsSelector, plainWords, type Press } from '../../core/events/press';
import type { Candidate } from '../../core/events/pointed';
import { pointingSaysSchema, type Pointed, type PointingView } from '../../core/events/pointing';
import { pageOf } from '../../core/capture';
import { AvrixError, fieldsWrong } from '../../core/errors';
import { readBodyAs } from '../../core/read-as';
import { readOrigin } from '../capture/origin';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { plain, type PointingRow } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import { readPresses } from './presses';

/** How long (ms) a link waits to be opened, and how long a tab may point. */
const lasts = 20 * 60_000;
/** Begins the name of every tab that points, among those that take part in something at the edge's door `try`. */
export const pointingPrefix = 'p';
const weeks = 8;

export type Pointing = ReturnType<typeof makePointing>;

/**
 * Somebody opens a page of their website by a link that works once, and points at what is to count. The tab that opened it
 * proves itself by a secret of its own from then on, so that neither the link nor what follows it is of use to another.
 */
export function makePointing({ db, tables }: Context) {
  async function find(
    businessId: string,
    by: { token: string } | { tab: string } | { id: string; personId: string },
  ): Promise<PointingRow | null> {
    const row = await tables.pointings.findOne({ where: { businessId, ...by, endsAt: { [Op.gt]: now() } } });
    return row?.get({ plain: true }) ?? null;
  }

  /** The page that pointing begins at: one of the business's own websites. */
  async function pageFor(businessId: string, written: string): Promise<URL> {
    const websites = plain(
      await tables.websites.findAll({ where: { businessId }, order: [['place', 'ASC']], limit: 200 }),
    );
    const [first] = websites;
    if (!first)
      throw fieldsWrong([
        { field: 'page', was: 'no website is known yet', fix: 'Add your website under Connections first.' },
      ]);
    if (!/^https?:\/\//i.test(written)) {
      const path = written.startsWith('/') ? written : `/${written}`;
      return new URL(path, await readOrigin(db, businessId, first.host));
    }
    const page = URL.canParse(written) ? new URL(written) : null;
    const isOwn = page && websites.some(({ registrable }) => `.${page.hostname}`.endsWith(`.${registrable}`));
    if (!isOwn)
      throw fieldsWrong([
        {
          field: 'page',
          was: 'that page is on no website of the business',
          fix: `Use one such as /fleet, on ${first.host}.`,
        },
      ]);
    return page;
  }

  /** Where else what was pointed at was pressed lately, as far as presses say it. */
  async function readElsewhere(businessId: string, { page, candidates }: Pointed): Promise<PointingView['candidates']> {
    const presses = await readPresses(db, businessId, new Date(nowMs() - weeks * 7 * 86_400_000));
    const here = pageOf(page);
    return candidates.map((candidate) => {
      // A form is no press, and what is around an element is recorded with none.
      if (candidate.kind === 'sends' || candidate.lasts === 'structure') return { ...candidate, elsewhere: null };
      const met = presses.filter(({ press }) => meets(candidate, press));
      const pages = new Set(met.map(({ address }) => pageOf(address)).filter((other) => other !== here));
      return { ...candidate, elsewhere: { presses: met.length, pages: pages.size } };
    });
  }

  return {
    /**
     * Begins pointing; one of the same person's that goes on ends.
     * @returns its ID, and the link that opens the page once
     * @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG
     */
    async begin(membership: Membership, written: string): Promise<{ id: string; link: string }> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const { personId } = membership.role;
      const page = await pageFor(businessId, written.trim());
      await tables.pointings.destroy({
        where: { businessId, [Op.or]: [{ personId }, { endsAt: { [Op.lte]: now() } }] },
      });
      const token = secret();
      const id = newId();
      await tables.pointings.create({
        businessId,
        id,
        personId,
        token: hash(token),
        tab: '',
        chosen: null,
        madeAt: now(),
        endsAt: new Date(nowMs() + lasts),
      });
      page.searchParams.set('avx_try', `${pointingPrefix}${token}`);
      return { id, link: page.href };
    },

    /** How somebody's own pointing stands. */
    async view({ business, role }: Membership, id: string): Promise<PointingView> {
      const row = await find(business.id, { id, personId: role.personId });
      if (!row) return { state: 'ended', page: '', candidates: [] };
      if (!row.chosen) return { state: row.tab === '' ? 'waits' : 'points', page: '', candidates: [] };
      return { state: 'chosen', page: row.chosen.page, candidates: await readElsewhere(business.id, row.chosen) };
    },

    /**
     * What a tab says. Beginning takes the link's token away and gives the tab a secret of its own.
     * @throws AVX_NOT_FOUND where nobody points under that name, or no more
     */
    async take(businessId: string, body: string): Promise<{ tab: string }> {
      const said = readBodyAs(pointingSaysSchema, body);
      const gone = new AvrixError('AVX_NOT_FOUND', { what: 'tab that points' });
      if (said.says === 'begin') {
        const tab = secret();
        const [count] = await tables.pointings.update(
          { token: '', tab: hash(tab) },
          { where: { businessId, token: hash(said.token), endsAt: { [Op.gt]: now() } } },
        );
        if (count !== 1) throw gone;
        return { tab };
      }
      const row = await find(businessId, { tab: hash(said.tab) });
      if (!row || row.chosen) throw gone;
      if (said.says === 'leave') await tables.pointings.destroy({ where: { businessId, id: row.id } });
      if (said.says === 'chosen')
        await tables.pointings.update({ chosen: said.pointed }, { where: { businessId, id: row.id } });
      return { tab: said.tab };
    },
  };
}

const secret = () => randomBytes(16).toString('hex');
const hash = (text: string) => createHash('sha256').update(text).digest('hex');

const meets = ({ kind, text: wanted }: Pick<Candidate, 'kind' | 'text'>, press: Press): boolean =>
  kind === 'presses_words'
    ? plainWords(press.text) === plainWords(wanted)
    : kind === 'leaves_for'
      ? leadsTo(press.link, wanted)
      : meetsSelector(press, wanted) === true;
