import { platformName } from '../links/placeholders';
import { marked } from '../marked';
import type { CaptureRules, ClickIdRule, FillRule, Reading } from './schema';

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
};

const days = (n: number) => (n === 1 ? '1 day' : `${n} days`);
const all = (values: string[]) => values.map(marked).join(', ');

/** How long touches are kept, and how their values are read. */
export type KeepTouchRule = Pick<CaptureRules['keep'], 'touchDays' | 'touchAge' | 'utmLowerCase'>;

export const keepSentence = ({ touchDays, touchAge, utmLowerCase }: KeepTouchRule): string =>
  `The first and the last touch are kept ${days(touchDays)}, ${
    touchAge === 'renewed' ? 'counted anew from each visit' : 'counted from the touch itself'
  }; UTM values are kept ${utmLowerCase ? 'in small letters' : 'as they arrive'}.`;

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

export const consentSentence = ({ required }: CaptureRules['consent']): string =>
  required
    ? 'Nothing is kept and nothing leaves a page before somebody agreed to measurement; “no” clears what is kept.'
    : 'Pages keep and send without being asked for consent; “no” clears what is kept.';

export const piiSentence = ({ names }: CaptureRules['pii']): string =>
  `Mail addresses and telephone numbers are taken out of every address${
    names.length > 0 ? `, and whatever stands under ${all(names)}` : ''
  }.`;

const finderWords: Record<FillRule['find'], string> = {
  name: 'The field',
  id: 'The field with the ID',
  label: 'The field labelled',
  selector: 'The field at',
};

export function fillSentence({ find, field, forms, pages, reading, platform, when, otherwise }: FillRule): string {
  const where = [
    forms.length > 0 ? ` of ${forms.length === 1 ? 'the form' : 'the forms'} ${all(forms)}` : ' of every form',
    pages.length > 0 ? ` on pages that begin with ${all(pages)}` : '',
  ].join('');
  const whose = reading === 'click_id' && platform ? ` of ${platformName(platform)}` : '';
  return `${finderWords[find]} ${marked(field)}${where} gets ${readingWords[reading]}${whose}${
    when === 'empty' ? ', only when it is empty' : ''
  }${otherwise ? `, else ${marked(otherwise)}` : ''}.`;
}

export const followedFormSentence = ({ name, words }: CaptureRules['forms'][number]): string =>
  `Each sending of the form ${marked(name)} is an enquiry, called “${words}”.`;
