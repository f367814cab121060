import { platformName } from '../links/placeholders';
import { marked } from '../marked';
import type { NoCustomerRule } from './no-customer';
import type { CaptureRules, ClickIdRule, Elsewhere, FillRule, Reading, SwapTable, ValueRule } from './schema';

/** How readings are called. */
export const readingWords: Record<Reading, string> = {
  click_id: 'the click ID',
  first_source: 'the first source',
  first_medium: 'the first medium',
  first_campaign: 'the first campaign',
  first_referrer: 'the first referrer',
  first_landing: 'the first landing page',
  last_source: 'the source',
  last_medium: 'the medium',
  last_campaign: 'the campaign',
  last_content: 'the content',
  last_term: 'the term',
  last_referrer: 'the referrer',
  last_landing: 'the landing page',
  first_referrer_host: 'the first referrer’s host',
  last_referrer_host: 'the referrer’s host',
  kept_value: 'the kept value',
};

const days = (n: number) => (n === 1 ? '1 day' : `${n} days`);
const all = (values: string[]) => values.map(marked).join(', ');

/** How long touches are kept, and how their values are read. */
export type KeepTouchRule = Pick<CaptureRules['keep'], 'touchDays' | 'touchAge' | 'utmLowerCase' | 'setBy'>;

export const keepSentence = ({ touchDays, touchAge, utmLowerCase, setBy }: KeepTouchRule): string =>
  `The first and the last touch are kept ${days(touchDays)}, ${
    touchAge === 'renewed' ? 'counted anew from each visit' : 'counted from the touch itself'
  }; UTM values are kept ${utmLowerCase ? 'in small letters' : 'as they arrive'}. Cookies are set by ${
    setBy === 'server' ? 'the website’s own subdomain' : 'the page'
  }.`;

export const characterWords: Record<ValueRule['characters'], string> = {
  any: 'any characters',
  words: 'letters, digits and spaces',
  digits: 'digits',
};

export function valueSentence({
  name,
  cookie,
  days: kept,
  age,
  which,
  lowerCase,
  characters,
  longest,
}: ValueRule): string {
  const letters = lowerCase ? ', in small letters' : '';
  return `The ${which} ${marked(name)} is kept ${days(kept)} in the cookie ${marked(cookie)}${letters}, counted ${
    age === 'renewed' ? 'anew from each visit' : 'from when it came'
  }: at most ${longest} of ${characterWords[characters]}.`;
}

/** What stands in place of a value, in words. */
const replacementWords = ({ gives, take }: SwapTable['otherwise']): string =>
  take === 'itself'
    ? 'stays as it is'
    : take === ''
      ? gives === ''
        ? 'becomes nothing'
        : `becomes ${marked(gives)}`
      : `becomes ${readingWords[take]}${gives ? `, else ${marked(gives)}` : ''}`;

export const swapSentence = ({ name, rows, otherwise }: SwapTable): string =>
  `The table “${name}”: ${rows.map((row) => `${marked(row.value)} ${replacementWords(row)}`).join('; ')}${
    rows.length > 0 ? '; ' : ''
  }everything else ${replacementWords(otherwise)}.`;

export const placeWords: Record<Elsewhere['kind'], string> = {
  own_website: 'your website',
  frame: 'the framed form',
  form: 'the form',
  calendar: 'the calendar',
};
export const returnWords: Record<Elsewhere['returns'], string> = {
  restored: 'the line there restores them',
  thank_you: 'people come back with them to a page of the website',
  hook: 'its back end tells Avrix, at once or by file',
  nothing: 'nothing comes back',
};
export const elsewhereSentence = ({ name, host, kind, returns }: Elsewhere): string =>
  `Values go along to ${placeWords[kind]} ${marked(host)}, called “${name}”; ${returnWords[returns]}.`;

export function noCustomerSentence({ networks, mailDomains, hosts }: NoCustomerRule): string {
  const parts = [
    networks.length > 0 && `who comes from ${all(networks)}`,
    mailDomains.length > 0 && `who has an address at ${all(mailDomains)}`,
    hosts.length > 0 && `what happens on ${all(hosts)}`,
  ].filter(Boolean);
  return `No customer: ${[...parts, 'bots'].join(', ')}, and browsers marked by their link.`;
}

export function clickIdSentence({ platform, parameter, days: kept, source, medium }: ClickIdRule): string {
  const says = [source && `source ${marked(source)}`, medium && `medium ${marked(medium)}`]
    .filter(Boolean)
    .join(' and ');
  return `The click ID of ${platformName(platform)} comes as ${marked(parameter)} and is kept ${days(kept)} from its click${
    says ? `; without tags it says ${says}` : ''
  }.`;
}

export const visitSentence = ({ visitMinutes, ownHosts, passThroughHosts }: CaptureRules['touch']): string =>
  `A visit ends after ${visitMinutes} idle minutes. ${all(ownHosts)} ${ownHosts.length === 1 ? 'is' : 'are'} never a source${
    passThroughHosts.length > 0 ? `, nor ${passThroughHosts.length === 1 ? 'is' : 'are'} ${all(passThroughHosts)}` : ''
  }.`;

export const consentSentence = ({ required, count }: CaptureRules['consent']): string =>
  required
    ? `Nothing is kept and nothing leaves a page before somebody agreed to measurement; “no” clears what is kept. Who did not agree is ${
        count ? 'counted without any identifier' : 'not counted'
      }.`
    : 'Pages keep and send without being asked for consent; “no” clears what is kept.';

export const piiSentence = ({ names }: CaptureRules['pii']): string =>
  `Mail addresses and telephone numbers are taken out of every address${
    names.length > 0 ? `, and whatever stands under ${all(names)}` : ''
  }.`;

/** How a rule's field is found, as its sentence begins. */
export const finderWords: Record<FillRule['find'], string> = {
  name: 'The field',
  id: 'The field with the ID',
  label: 'The field labelled',
  selector: 'The field at',
};

export function fillSentence({
  find,
  field,
  forms,
  pages,
  reading,
  platform,
  when,
  otherwise,
  swap,
}: FillRule): string {
  const where = [
    forms.length > 0 ? ` of ${forms.length === 1 ? 'the form' : 'the forms'} ${all(forms)}` : ' of every form',
    pages.length > 0 ? ` on pages that begin with ${all(pages)}` : '',
  ].join('');
  const whose =
    reading === 'kept_value'
      ? ` ${marked(platform)}`
      : reading === 'click_id' && platform
        ? ` of ${platformName(platform)}`
        : '';
  return `${finderWords[find]} ${marked(field)}${where} gets ${readingWords[reading]}${whose}${swap ? ` through the table “${swap}”` : ''}${
    when === 'empty' ? ', only when it is empty' : ''
  }${otherwise ? `, else ${marked(otherwise)}` : ''}.`;
}

export const followedFormSentence = ({ name, words }: CaptureRules['forms'][number]): string =>
  `Each sending of the form ${marked(name)} is an enquiry, called “${words}”.`;
