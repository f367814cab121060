import type { Fault } from '../../core/capture/faults';
import type { FormsView, InstallView } from '../../core/capture/station-view';
import type { ReleaseContent } from '../../core/releases';
import { counted, type Sentence } from '../../core/strands';
import { weeks } from '../plan/plan';

/* What the pages of the station Capture open with. */

export function faultsSentence(faults: Fault[], recorded: boolean): Sentence {
  if (!recorded)
    return {
      title: 'No page has reported yet.',
      under: 'Paste the snippet into your website; each page that has it shows here.',
    };
  if (faults.length === 0)
    return {
      title: 'Everything that arrives is caught.',
      under: `No fault was found in ${weeks} weeks, on any page or form that was seen.`,
    };
  return {
    title: `${counted(faults.length, 'fault keeps', 'faults keep')} values from reaching the forms and the CRM whole.`,
    under: faults[0]!.what,
  };
}

export const keptSentence = ({ capture: { keep, carry } }: ReleaseContent): Sentence => ({
  title: `${counted(keep.clickIds.length, 'platform’s click ID is', 'platforms’ click IDs are')} kept, and touches for ${keep.touchDays} days.`,
  under:
    carry.length > 0
      ? `${counted(carry.length, 'carry name saves', 'carry names save')} click IDs that browsers take out of addresses.`
      : 'No carry name is known: where a browser takes a click ID out of the address, it is gone.',
});

export const fieldsSentence = ({ capture: { fill } }: ReleaseContent, forms: FormsView['forms']): Sentence => ({
  title:
    fill.length === 0
      ? 'No field is filled yet.'
      : `${counted(fill.length, 'rule fills', 'rules fill')} the forms of the website.`,
  under:
    forms.length === 0
      ? 'No form was seen yet; the first page with the snippet and a form shows it.'
      : `${counted(forms.length, 'form was', 'forms were')} seen; beside each rule is what it finds there.`,
});

export function formsSentence(_content: ReleaseContent, forms: FormsView['forms']): Sentence {
  const wrong = forms.filter(({ problems }) => problems.length > 0);
  if (forms.length === 0)
    return {
      title: 'No form was seen yet.',
      under: 'Each page with the snippet reports its forms when somebody opens it: names of fields, never contents.',
    };
  return wrong.length === 0
    ? {
        title: `${forms.length === 1 ? 'The form that was seen is' : `All ${forms.length} forms that were seen are`} sound.`,
        under: 'Every hidden field is filled under the name that the CRM reads.',
      }
    : {
        title: `${wrong.length} of ${counted(forms.length, 'form', 'forms')} ${wrong.length === 1 ? 'loses' : 'lose'} something.`,
        under: 'From the fields that pages show, and from what the CRM holds of what was sent.',
      };
}

export function installSentence(pages: InstallView['pages'], hosts: string[]): Sentence {
  const missing = pages.filter(({ state }) => state === 'missing').length;
  const twice = pages.filter(({ state }) => state === 'twice').length;
  const stopped = pages.filter(({ state }) => state === 'stopped').length;
  if (pages.length === 0)
    return {
      title: `Paste the snippet into every page of ${hosts[0] ?? 'your website'}.`,
      under: 'Before the end of the head; it loads beside the page and never holds it up.',
    };
  const seen = pages.length - missing - twice - stopped;
  return {
    title: `The snippet was seen on ${counted(seen + twice, 'page', 'pages')}${missing > 0 ? ` and is missing on ${missing}` : ''}.`,
    under:
      stopped > 0
        ? `The content policy of ${counted(stopped, 'page', 'pages')} blocks it; Faults says what to add.`
        : twice > 0
          ? `It is on ${counted(twice, 'page', 'pages')} twice; once is right.`
          : `Pages report by themselves in ${weeks} weeks’ traffic; page checks find the others.`,
  };
}

export const mailOf = (lines: InstallView['lines']) => ({
  subject: `A snippet for ${lines[0]?.hosts[0] ?? 'our website'}`,
  body: `Hello,

${lines
  .map(({ hosts, line }, at) => {
    const pages = `every page of ${hosts.join(', ') || 'our website'}, once`;
    return `${at === 0 ? `this snippet goes into the head of ${pages}` : `and this one into the head of ${pages}`}:\n\n${line}`;
  })
  .join('\n\n')}

It loads beside the page, sets first-party cookies, fills hidden fields of our forms and raises no error of its own. \
Where the website has a content security policy, it needs the snippet's host in script-src and connect-src, and avrix in \
trusted-types if it has that.

Thank you`,
});
