import { platformName } from '../platforms/links';
import type { OwnPlatform } from '../platforms/schema';
import { tagLink, type LinkPlan, type TagValue } from '../links';
import { isPlaceholder } from './address';
import { readValue } from './fill';
import { readingWords } from './readings';
import type { CaptureRules, FillReport, Hit, Kept, Reading } from './schema';

/** One page that a browser opened while it tried rules. */
export interface TrialPage {
  /** ms */
  at: number;
  address: string;
  /** What the browser keeps after it. */
  kept: { words: string; value: string }[];
  forms: { form: string; isSent: boolean; fields: TrialField[] }[];
}

/** What became of a fill rule in a form, and the value that it puts in. */
export interface TrialField {
  field: string;
  /** With the state `near`: the field that is there instead. */
  near: string;
  state: FillReport['state'];
  value: string;
}

const shown = (Object.keys(readingWords) as Reading[]).filter(
  (reading) => !['click_id', 'kept_value'].includes(reading) && !reading.endsWith('_host'),
);

/** Everything that is kept, as people call it; what the first and the last touch have in common stands there once. */
export function keptWords(kept: Kept, platforms: readonly OwnPlatform[]): TrialPage['kept'] {
  const touch = shown.flatMap((reading) => {
    const value = readValue({ reading, platform: '' }, kept);
    const other = reading.startsWith('first_') ? (reading.replace('first_', 'last_') as Reading) : null;
    const isSame = other !== null && readValue({ reading: other, platform: '' }, kept) === value;
    return value === '' || isSame ? [] : [{ words: readingWords[reading], value }];
  });
  return [
    ...kept.clicks.map(({ platform, clickId }) => ({
      words: `the click ID of ${platformName(platform, platforms)}`,
      value: clickId,
    })),
    ...touch,
    ...kept.values.map(({ name, value }) => ({ words: name, value })),
  ];
}

/**
 * What a browser told of a trial, page by page, the newest first, with the value of each field as the rules put it in.
 * @param rules those that are tried
 * @param platforms those that the business describes itself
 */
export function trialPages(hits: Hit[], rules: CaptureRules, platforms: readonly OwnPlatform[]): TrialPage[] {
  const pages: TrialPage[] = [];
  for (const hit of hits.toSorted((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1))) {
    const { first, last, clicks, values = [] } = hit.kept;
    const kept: Kept = { visitor: null, first, last, clicks, values };
    if (hit.kind === 'arrived' || pages.length === 0)
      pages.push({ at: hit.at, address: hit.address, kept: keptWords(kept, platforms), forms: [] });
    const page = pages.at(-1)!;
    const fieldsOf = (fills: Pick<FillReport, 'rule' | 'field' | 'near' | 'state'>[]): TrialField[] =>
      fills.map(({ rule: id, field, near, state }) => {
        const rule = rules.fill.find((one) => one.id === id);
        return { field, near, state, value: rule && state === 'filled' ? readValue(rule, kept, rules.swaps) : '' };
      });
    if (hit.kind === 'forms_seen')
      for (const { form, fills } of hit.forms) page.forms.push({ form, isSent: false, fields: fieldsOf(fills) });
    if (hit.kind === 'form_sent') page.forms.push({ form: hit.form, isSent: true, fields: fieldsOf(hit.fills) });
  }
  return pages.reverse();
}

/** A value that a link would really have: the first that is planned, else the example, else one that says what it is. */
const exampleOf = ({ values, example, tag }: LinkPlan['tags'][number]): string =>
  values[0]?.value ?? (example && !isPlaceholder(example) ? example : `try-${tag.replace(/^utm_/, '')}`);

/**
 * A page's address with made-up values for everything that the rules keep: the plan's tags under the names that links are
 * made with, each platform's click ID, and the business's own values.
 */
export function trialLink(page: URL, plan: LinkPlan, { keep }: CaptureRules, token: string): string {
  const [charged] = keep.clickIds.filter(({ source }) => source !== '');
  const tags = plan.tags.map((rule): TagValue => {
    if (rule.tag === 'utm_source' && charged) return [rule.tag, charged.source];
    if (rule.tag === 'utm_medium' && charged?.medium) return [rule.tag, charged.medium];
    return [rule.tag, exampleOf(rule)];
  });
  const others = [
    ...keep.clickIds.slice(0, 1).map(({ parameter }): TagValue => [parameter, `Try${token.slice(0, 16)}`]),
    ...keep.values.map(({ name, characters }): TagValue => [name, characters === 'digits' ? '1234' : 'try']),
  ];
  return tagLink(page, [...tags, ...others, ['avx_try', token]], plan.names);
}
