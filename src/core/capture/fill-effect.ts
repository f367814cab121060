import { decideFills } from './fill';
import type { FillEffect } from './station-view';
import type { CaptureRules, FillRule, Kept } from './schema';

/** A form as it was sent: when (ms), the names of its fields, and what the browser kept. */
export interface SentForm {
  at: number;
  form: string;
  page: string;
  fields: string[];
  kept: Kept;
}

const lastFew = 5;

/**
 * What one fill rule would have put into forms that were sent (a rule's effect, before it is kept). Only the names of
 * fields were recorded, so a rule that finds its field otherwise fills none here.
 */
export function fillEffect(rule: FillRule, sent: SentForm[], rules: CaptureRules): FillEffect {
  const effect: FillEffect = { sent: 0, filled: 0, noValue: 0, notFound: 0, near: [], last: [] };
  const near = new Map<string, FillEffect['near'][number]>();
  for (const { at, form, page, fields, kept } of [...sent].sort((a, b) => b.at - a.at)) {
    const seen = {
      name: form,
      page,
      fields: fields.map((name) => ({ name, id: '', label: '', hidden: true, value: '' })),
    };
    const [line] = decideFills(seen, kept, { ...rules, fill: [rule] }).report;
    if (!line) continue;
    effect.sent += 1;
    if (line.state === 'filled') {
      effect.filled += 1;
      if (effect.last.length < lastFew) effect.last.push({ at: new Date(at).toISOString(), form, value: line.value });
    } else if (line.state === 'no_value') effect.noValue += 1;
    else effect.notFound += 1;
    if (line.state === 'near') {
      const key = `${form} ${line.near}`;
      near.set(key, { form, field: line.near, times: (near.get(key)?.times ?? 0) + 1 });
    }
  }
  return { ...effect, near: [...near.values()].sort((a, b) => b.times - a.times) };
}
