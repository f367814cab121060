/* eslint-disable no-await-in-loop -- visitors go in pieces, so that memory holds one */
import { selectOne, selectRows, time, uuid } from '../db';
import type { FillRule } from '../../core/capture';
import { fillEffect, type SentForm } from '../../core/capture/fill-effect';
import type { CaptureEffectView } from '../../core/capture/station-view';
import { applyChanges, type RuleChange } from '../../core/rules';
import type { KnownCounts } from '../../core/strands/rule-effect';
import { nowMs } from '../clock';
import type { Context } from '../context';
import type { Membership } from '../people/people';
import { observationStart } from '../plan/plan';
import { runInPool } from '../pool';
import type { Draft } from '../releases/draft';
import { pieceVisitors, readVisitorHits } from './hits';

/** Visitors who sent a form, the newest first; more are not read for an effect. */
const mostVisitors = 300;

/** How long (ms) a piece of visitors may take. */
const longest = 30_000;

const nothing = (): KnownCounts => ({ enquiries: 0, click: 0, touch: 0 });
function add(counts: KnownCounts, more: KnownCounts): void {
  for (const key of ['enquiries', 'click', 'touch'] as const) counts[key] += more[key];
}

/** What changed rules would have done: every visitor who asked is derived once more, under the live and the new rules. */
export function makeCaptureEffect({ db }: Context, draft: Draft) {
  return async function effect({ business }: Membership, changes: RuleChange[]): Promise<CaptureEffectView> {
    const { live, draft: edited } = await draft.content(business.id);
    const after = applyChanges(edited, changes);
    const visitors = await selectRows(
      db,
      { id: uuid().of('visitor_id') },
      `FROM enquiries WHERE business_id = ? AND sent_at >= ? AND visitor_id IS NOT NULL
       GROUP BY visitor_id ORDER BY MAX(sent_at) DESC LIMIT ${mostVisitors}`,
      [business.id, observationStart()],
    );
    const since = observationStart().getTime();
    const before = nothing();
    const then = nothing();
    const sent: SentForm[] = [];
    const ids = visitors.map(({ id }) => id);
    for (const piece of await pieceVisitors(db, business.id, ids)) {
      const hits = await readVisitorHits(db, business.id, piece);
      const given = { business: business.id, visitors: [...hits], live, after, since, now: nowMs() };
      const found = await runInPool('deriveRuleEffect', given, longest);
      add(before, found.live);
      add(then, found.after);
      sent.push(...found.sent);
    }
    const first = await selectOne(db, { at: time().nullable().of('MIN(at)') }, 'FROM hits WHERE business_id = ?', [
      business.id,
    ]);
    const rule = changes.find(({ kind, value }) => kind === 'fill' && value !== null)?.value as FillRule | undefined;
    return {
      enquiries: before.enquiries,
      click: { live: before.click, after: then.click },
      touch: { live: before.touch, after: then.touch },
      fill: rule ? fillEffect(rule, sent, after.capture) : null,
      recordedSince: first.at?.toISOString() ?? null,
    };
  };
}
