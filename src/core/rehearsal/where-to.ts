import { queryValue, splitAddress } from '../capture/address';
import { isFor, leadTokenField } from '../capture/fill';
import type { CaptureRules } from '../capture/schema';
import { findClickIds } from '../capture/touch';
import { leadsTo, meetsSelector, plainWords, type Press } from '../events/press';
import { openShortLink } from '../links/open';
import { placeholdersOf } from '../links/placeholders';
import { linksOf, platformName } from '../platforms/links';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import type { KnownForm, KnownWorld } from './known';
import type { Note } from './walker';

/* Where the steps of a pretend visitor lead. */

/** Links on the way to a page that are followed. */
const mostSteps = 10;

export const originOf = (address: string): string => /^https?:\/\/[^/?#]*/i.exec(address)?.[0] ?? '';

/** Host and path of an address; '' where it is none. */
export const pageKey = (address: string): string => {
  const split = splitAddress(address);
  return split ? split.host + split.path : '';
};

/** An address in full; one without a host is of the website. '' where it is none. */
export function absolute(text: string, { website }: Pick<KnownWorld, 'website'>): string {
  if (text.startsWith('/')) return website && website + text;
  const address = /^https?:\/\//i.test(text) ? text : `http://${text}`;
  return splitAddress(address) ? address : '';
}

/**
 * An ad's address as it is after a click: its platform fills in what it has placeholders for, and adds its click ID where the
 * link names its source.
 * @param clickId a made-up one
 */
export function clicked(
  address: string,
  { capture, platforms }: Pick<ReleaseContent, 'capture' | 'platforms'>,
  clickId: string,
): { address: string; notes: Note[] } {
  const notes: Note[] = [];
  const filled = placeholdersOf(linksOf(platforms)).reduce(
    (text, one) => text.replaceAll(one.text, encodeURIComponent(one.example)),
    address,
  );
  if (filled !== address) notes.push({ kind: 'quiet', text: 'The platform fills in its placeholders at the click.' });
  const split = splitAddress(filled);
  const source = split ? queryValue(split, 'utm_source').toLowerCase() : '';
  const rule = capture.keep.clickIds.find((one) => source !== '' && one.source.toLowerCase() === source);
  if (!split || !rule || findClickIds(split, capture).length > 0) return { address: filled, notes };
  const platform = platformName(rule.platform, platforms);
  notes.push({ kind: 'quiet', text: `${platform} adds its click ID at the click, here ${quoteValue(clickId)}.` });
  return { address: openShortLink(filled, `${rule.parameter}=${clickId}`, 'link'), notes };
}

/** Where a link leads in the end, by short links and redirects that are known. */
export function followLinks(
  link: string,
  { sendsOn }: Pick<KnownWorld, 'sendsOn'>,
): { address: string; notes: Note[] } {
  const notes: Note[] = [];
  let address = link;
  for (let steps = 0; steps < mostSteps; steps++) {
    const on = sendsOn[address.split(/[?#]/)[0]!];
    if (!on) break;
    const query = /\?([^#]*)/.exec(address)?.[1] ?? '';
    const drops = on.wins === 'neither' && query !== '';
    address = openShortLink(on.to, query, on.wins);
    const without = drops ? ', without the query it was opened with' : '';
    notes.push({ kind: drops ? 'fault' : 'did', text: `Is sent on to ${quoteValue(address)}${without}.` });
  }
  return { address, notes };
}

/** A link or button that nobody pressed yet, as it is written: a selector by an ID, where a link leads, or its words. */
export function presumedPress(what: string): Press {
  const none: Press = { tag: 'a', id: '', name: '', link: '', text: '', data: [] };
  if (/^#[\w-]+$/.test(what)) return { ...none, id: what.slice(1) };
  if (/^(tel|mailto):|^https?:\/\//i.test(what)) return { ...none, link: what };
  if (/^[\w-]+(\.[\w-]+)+(\/\S*)?$/.test(what)) return { ...none, link: `https://${what}` };
  return { ...none, text: what.slice(0, 60) };
}

/** A form that nobody has seen yet: with the fields that rules fill in a form of its name on that page. */
export function presumedForm(form: string, path: string, { fill }: Pick<CaptureRules, 'fill'>): KnownForm {
  const own = fill.filter((rule) => rule.find === 'name' && isFor(rule, { name: form, page: path }));
  const names = [...new Set([...own.map(({ field }) => field), leadTokenField])];
  return { form, path, fields: names.map((name) => ({ name, hidden: true })), found: [] };
}

/** The press that is meant by words, a selector, or where it leads: one of the page, else one of any. */
export function findPress(what: string, path: string, { presses }: Pick<KnownWorld, 'presses'>) {
  const isMeant = ({ press }: { press: Press }) =>
    (press.text !== '' && plainWords(press.text).includes(plainWords(what))) ||
    leadsTo(press.link, what) ||
    (/^[#[.]/.test(what) && meetsSelector(press, what) === true);
  return presses.find((one) => one.path === path && isMeant(one)) ?? presses.find(isMeant);
}

/** A form as it stands on the page, else as it stands on another. */
export const findForm = (form: string, path: string, { forms }: Pick<KnownWorld, 'forms'>): KnownForm | undefined =>
  forms.find((one) => one.form === form && one.path === path) ?? forms.find((one) => one.form === form);
