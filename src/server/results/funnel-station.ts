import { mayChange } from '../../core/people/rights';
import type { Release } from '../../core/releases';
import { cellView, cellWords, dimensionWords } from '../../core/results/dimensions';
import { figurePlain } from '../../core/results/figure-text';
import { leftOut } from '../../core/results/cost-words';
import { funnelSentence, stepProblem, stepWords } from '../../core/results/funnel-words';
import type {
  FunnelBehind,
  FunnelQuery,
  FunnelStep,
  FunnelView,
  JourneyRow,
  JourneysView,
} from '../../core/results/funnel-view';
import { count } from '../../core/strands';
import { readPathsSeen } from '../capture/queries';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { readChoices, readNarrowing } from '../leads/segments/segments';
import { mostInFile, pageSize } from '../lists';
import type { Membership } from '../people/people';
import { observationStart } from '../plan/plan';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import { periodOf } from '../strands/range';
import { longest, makeAsked } from './asked';
import { askedOfBusiness } from './asked-business';
import type { SavedViews } from './saved-views';
import type { AskedFunnelWork } from './work-out-funnel';

/** Paths that are offered for a step. */
const mostOffered = 200;

/** Funnels: how many of those who began went on, where the others went instead, and what those at the end brought. */
export function makeFunnelStation(context: Context, releases: Releases, savedViews: SavedViews) {
  const { db } = context;
  const { daysOf } = makeAsked(context, releases);

  async function asked(membership: Membership, query: FunnelQuery) {
    const { business, role } = membership;
    const release = await releases.live(business.id);
    const { days, cycle } = await daysOf(membership, release, { ...query, against: 'none' });
    const segment = await readNarrowing(context, business, role, release, query.segment);
    const { outcomes, ladders, qualified } = release.content;
    const steps = query.steps.length > 0 ? query.steps : usualSteps(release);
    const work: AskedFunnelWork = {
      ...askedOfBusiness(context, business, release),
      rules: { outcomes, ladders, qualified },
      steps,
      within: query.within,
      by: query.by,
      ...days,
      ...periodOf(days.firstDay, days.lastDay, business.timeZone),
      now: nowMs(),
      segment: segment?.where ?? null,
    };
    return { release, steps, days, cycle, work };
  }

  const offersOf = ({ content }: Release): Omit<FunnelView['offers'], 'paths'> => ({
    events: content.events.events.map(({ name }) => name),
    forms: content.capture.forms.map(({ name, words }) => ({ name, words })),
    outcomes: content.outcomes.map(({ code, words }) => ({ code, words })),
  });

  return {
    async view(membership: Membership, query: FunnelQuery): Promise<FunnelView> {
      const { business, role } = membership;
      const { release, steps, days, cycle, work } = await asked(membership, query);
      const offers = offersOf(release);
      const [found, paths, segments, saved] = await Promise.all([
        runInPool('workOutFunnel', work, longest),
        readPathsSeen(db, business.id, observationStart(), mostOffered),
        readChoices(context, business.id, role.personId, query.segment),
        savedViews.list(business.id, 'funnel'),
      ]);
      const begun = found.steps[0]?.made ?? 0;
      const views = found.steps.map((step, i) => ({
        ...step,
        words: stepWords(steps[i]!, offers),
        share: begun === 0 ? 0 : step.made / begun,
      }));
      return {
        sentence: funnelSentence(views, query.within === 'visit' ? 'visit' : 'visitor'),
        asked: { steps, within: query.within, by: query.by, segment: query.segment },
        range: { choice: query.range, ...days, cycleDays: cycle, release: release.number },
        steps: views,
        problems: [
          ...steps.flatMap((step, i) => {
            const problem = stepProblem(step);
            return problem === '' ? [] : [`Step ${i + 1} fits no page: ${problem}.`];
          }),
          ...leftOut('What was won', 'is', role.seesMoney ? found.withoutRate : []),
        ],
        worth: role.seesMoney ? found.worth : null,
        rows: found.rows.map(({ cell, made, worth }) => ({
          cell,
          ...cellView(query.by === '' ? 'source' : query.by, cell),
          made,
          worth: role.seesMoney ? worth : null,
        })),
        offers: { ...offers, paths },
        segments,
        saved,
        mayChange: mayChange(role),
        seesMoney: role.seesMoney,
        currency: business.currency,
        timeZone: business.timeZone,
      };
    },

    /** The journeys behind a figure, one page of them. */
    async behind(membership: Membership, query: FunnelQuery, behind: FunnelBehind): Promise<JourneysView> {
      const { business } = membership;
      const { release, steps, work } = await asked(membership, query);
      const { rows, total } = await runInPool(
        'workOutJourneys',
        { ...work, behind, offset: (behind.page - 1) * pageSize, limit: pageSize },
        longest,
      );
      const offers = offersOf(release);
      const words = steps[behind.step] ? stepWords(steps[behind.step]!, offers) : '';
      return {
        sentence: {
          title: `${count(total)} ${endWords[behind.end](words)}${behind.cell === undefined ? '' : `, by ${cellWords(behind.cell)}`}.`,
          under: query.within === 'visit' ? 'Each is one visit.' : 'Each is one browser, from its first step on.',
        },
        rows: rows.map((row) => rowOf(row, steps, offers)),
        total,
        page: behind.page,
        pageSize,
        timeZone: business.timeZone,
      };
    },

    /** The funnel for a file: how many came to each step, all together and by what brought them. */
    async table(membership: Membership, query: FunnelQuery): Promise<string[][]> {
      const { business, role } = membership;
      const { release, steps, work } = await asked(membership, query);
      const { steps: found, rows, worth } = await runInPool('workOutFunnel', work, longest);
      const offers = offersOf(release);
      const worthOf = (minor: number) => (role.seesMoney ? [figurePlain('profit', minor, business.currency)] : []);
      return [
        [
          query.by === '' ? '' : dimensionWords(query.by),
          ...steps.map((step) => stepWords(step, offers).replaceAll('`', '')),
          ...(role.seesMoney ? [`worth (${business.currency})`] : []),
        ],
        ...rows.map(({ cell, made, worth: own }) => [cellWords(cell), ...made.map(String), ...worthOf(own)]),
        ['all together', ...found.map(({ made }) => String(made)), ...worthOf(worth)],
      ];
    },

    /** All journeys behind a figure, for a file. */
    async journeys(membership: Membership, query: FunnelQuery, behind: FunnelBehind): Promise<string[][]> {
      const { release, steps, work } = await asked(membership, query);
      const { rows } = await runInPool('workOutJourneys', { ...work, behind, offset: 0, limit: mostInFile }, longest);
      const offers = offersOf(release);
      return [
        ['began', 'brought by', 'last step', 'at', 'went to instead', 'browser'],
        ...rows.map((row) => {
          const { at, from, last, lastAt, instead, visitor } = rowOf(row, steps, offers);
          return [at, from, last, lastAt, instead, visitor];
        }),
      ];
    },
  };

  function rowOf(
    {
      visitor,
      times,
      last,
      cell,
      instead,
    }: { visitor: string; times: (number | null)[]; last: number; cell: string; instead: string },
    steps: FunnelStep[],
    offers: Omit<FunnelView['offers'], 'paths'>,
  ): JourneyRow {
    const iso = (at: number) => new Date(at).toISOString();
    return {
      id: `${visitor} ${times[0]}`,
      visitor,
      at: iso(times[0]!),
      from: cellWords(cell),
      last: stepWords(steps[last]!, offers),
      lastAt: iso(times[last]!),
      instead,
    };
  }
}

const endWords: Record<FunnelBehind['end'], (step: string) => string> = {
  made: (step) => step,
  lost: (step) => `went on to something else, and never ${step}`,
  open: (step) => `may still go on, and have not yet ${step}`,
};

/** Where nobody said any: a page, the form, and what it is all for. */
function usualSteps({ content }: Release): FunnelStep[] {
  const step = (kind: FunnelStep['kind'], value: string): FunnelStep => ({ kind, test: 'begins', value, skip: false });
  const [form] = content.capture.forms;
  const qualified = content.qualified.form;
  return [
    step('page', '/'),
    ...(form ? [step('form', form.name)] : []),
    ...(qualified ? [step('outcome', qualified)] : []),
  ];
}
