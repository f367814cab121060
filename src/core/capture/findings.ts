import { hostOf, isUnder, queryValue, splitAddress } from './address';
import { decideTouch, findClickId, type Arrival } from './touch';
import type { ArrivedHit, CaptureRules, PiiFound } from './schema';

/** What can be wrong, or worth knowing, with one arrival. */
export const findingKinds = [
  'pii',
  'own_link_tagged',
  'click_id_gone',
  'carried',
  'carry_differs',
  'click_id_odd',
  'placeholder',
] as const;
export type FindingKind = (typeof findingKinds)[number];

/** One finding of one arrival. Contents that say who somebody is never stand in it. */
export interface Finding {
  kind: FindingKind;
  /** The query name it concerns; for `own_link_tagged` the medium that the link carries. */
  name: string;
  /** Host and path: where it arrived, for `own_link_tagged` where the link stands. */
  page: string;
  campaign: string;
  /** What kind of PII, or which placeholder; else ''. */
  detail: string;
}

/** Characters of click IDs; another in one is kept and reported (touch rule 6). */
const usualClickId = /^[\w.~-]{4,300}$/;
const longest = 200;

/** Everything one arrival shows of faults in links and pages, by the rules of its release. `placeholders`: texts that platforms should have filled in. */
export function findingsOf(hit: ArrivedHit, rules: CaptureRules, placeholders: string[]): Finding[] {
  const address = splitAddress(hit.address);
  if (!address || hit.navigation !== 'navigate') return [];
  const page = (address.host + address.path).slice(0, longest);
  const campaign = queryValue(address, 'utm_campaign').slice(0, longest);
  const found: Finding[] = (hit.pii ?? []).map(({ name, kind, place }: PiiFound) => ({
    ...{ kind: 'pii' as const, name: name || place, page, campaign, detail: kind },
  }));
  const add = (kind: FindingKind, name: string, rest: Partial<Finding> = {}) =>
    found.push({ kind, name, page, campaign, detail: '', ...rest });

  const arrival: Arrival = { at: hit.at, address: hit.address, referrer: hit.referrer, navigation: hit.navigation };
  const from = splitAddress(hit.referrer);
  if (decideTouch(arrival, [], rules).ownLinkTagged)
    add('own_link_tagged', queryValue(address, 'utm_medium').slice(0, 60), {
      page: from ? (from.host + from.path).slice(0, longest) : page,
    });

  const click = findClickId(address, rules);
  if (click?.carriedAs) add('carried', click.carriedAs);
  if (click && !usualClickId.test(click.value)) add('click_id_odd', click.carriedAs || click.rule.parameter);
  for (const { platform, name } of rules.carry) {
    const carried = queryValue(address, name);
    if (click && !click.carriedAs && click.rule.platform === platform && carried !== '' && carried !== click.value)
      add('carry_differs', name);
  }
  if (!click) {
    const [source, medium] = [queryValue(address, 'utm_source'), queryValue(address, 'utm_medium')];
    // A click that the platform charges for always brings its ID; where only the tags came, something took it out.
    const charged = rules.keep.clickIds.find(
      (rule) => rule.medium !== '' && rule.source === source && rule.medium === medium,
    );
    const fromOwn = rules.touch.ownHosts.some((own) => isUnder(hostOf(hit.referrer), own));
    if (charged && !fromOwn) add('click_id_gone', charged.parameter);
  }
  for (const [name, value] of address.query) {
    const text = placeholders.find((placeholder) => value.includes(placeholder));
    if (text) add('placeholder', name.slice(0, 60), { detail: text });
  }
  return found;
}
