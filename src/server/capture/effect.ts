import { setImmediate } from 'node:timers/promises';
import { QueryTypes } from 'sequelize';
import { splitAddress, type FillRule, type FormSentHit } from '../../core/capture';
import { fillEffect, type SentForm } from '../../core/capture/fill-effect';
import type { CaptureEffectView } from '../../core/capture/station-view';
import { rulesOfContent, type ReleaseContent } from '../../core/releases';
import { applyChanges, type RuleChange } from '../../core/rules';
import { deriveVisitor, type RecordedHit } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import type { Membership } from '../people/people';
import { lookedAtSince } from '../plan/plan';
import type { Draft } from '../releases/draft';
import { pieceVisitors, readVisitorHits } from './hits';

/** Visitors who sent a form, the newest first; more are not read for an effect. */
const mostVisitors = 400;

/** What changed rules would have done: every visitor who asked is derived once more, under the live and the new rules. */
export function makeCaptureEffect({ db }: Context, draft: Draft) {
  return async function effect({ business }: Membership, changes: RuleChange[]): Promise<CaptureEffectView> {
    const { live, draft: edited } = await draft.content(business.id);
    const after = applyChanges(edited, changes);
    const visitors = await db.query<{ id: string }>(
      `SELECT visitor_id AS id FROM enquiries WHERE business_id = ? AND sent_at >= ? AND visitor_id IS NOT NULL
       GROUP BY visitor_id ORDER BY MAX(sent_at) DESC LIMIT ${mostVisitors}`,
      { replacements: [business.id, lookedAtSince()], type: QueryTypes.SELECT },
    );
    const since = lookedAtSince().getTime();
    const [before, then] = [nothing(), nothing()];
    const sent: SentForm[] = [];
    const ids = visitors.map(({ id }) => id);
    for (const piece of await pieceVisitors(db, business.id, ids)) {
      const hits = await readVisitorHits(db, business.id, piece);
      for (const [visitor, own] of hits) {
        addKnown(before, business.id, visitor, own, live, since);
        addKnown(then, business.id, visitor, own, after, since);
        sent.push(...sentForms(own, since));
        // Others are answered between one browser and the next.
        await setImmediate();
      }
    }
    const [first] = await db.query<{ at: Date | null }>('SELECT MIN(at) AS at FROM hits WHERE business_id = ?', {
      replacements: [business.id],
      type: QueryTypes.SELECT,
    });
    const rule = changes.find(({ kind, value }) => kind === 'fill' && value !== null)?.value as FillRule | undefined;
    return {
      enquiries: before.enquiries,
      click: { live: before.click, after: then.click },
      touch: { live: before.touch, after: then.touch },
      fill: rule ? fillEffect(rule, sent, after.capture) : null,
      recordedSince: first!.at?.toISOString() ?? null,
    };
  };
}

const nothing = () => ({ enquiries: 0, click: 0, touch: 0 });

/** Adds how many of a visitor's enquiries since a time (ms) still knew a click, and a touch, under some rules. */
function addKnown(
  counts: ReturnType<typeof nothing>,
  business: string,
  visitor: string,
  hits: RecordedHit[],
  content: ReleaseContent,
  since: number,
): void {
  const rules = rulesOfContent(content);
  const { enquiries } = deriveVisitor(business, visitor, hits, () => rules, nowMs());
  for (const enquiry of enquiries) {
    if (enquiry.sentAt < since || enquiry.marked) continue;
    counts.enquiries += 1;
    if (enquiry.clickKept) counts.click += 1;
    if (enquiry.touch) counts.touch += 1;
  }
}

function sentForms(hits: RecordedHit[], since: number): SentForm[] {
  const isSent = (hit: RecordedHit['hit']): hit is FormSentHit => hit.kind === 'form_sent';
  return hits.flatMap(({ hit, at }): SentForm[] => {
    if (!isSent(hit) || at < since) return [];
    const { first, last, clicks, values = [] } = hit.kept;
    return [
      {
        ...{ at, form: hit.form, fields: hit.fields, page: splitAddress(hit.address)?.path ?? '/' },
        kept: { visitor: null, first, last, clicks, values },
      },
    ];
  });
}
