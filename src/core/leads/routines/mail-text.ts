import { Liquid } from 'liquidjs';
import { escapeHtml } from '../../escape-html';

/** What an email can say of whoever it goes to, by the names that stand in its text. */
export const mailFacts = {
  first_name: 'their first name',
  name: 'their name',
  company: 'their company',
  form: 'the form they sent',
  enquired: 'the day on which they enquired',
  came_from: 'where they came from, in words',
  business: 'your business’s name',
  unsubscribe: 'the link by which they unsubscribe',
} as const;
export type MailFact = keyof typeof mailFacts;
/** `record`: the fields of the CRM's record by their names. */
export type MailFacts = Record<MailFact, string> & { record: Record<string, string> };

export interface MailTemplate {
  subject: string;
  text: string;
  /** '' where it is made of the text. */
  html: string;
}
/** An email as it is sent. */
export interface WrittenMail {
  subject: string;
  text: string;
  html: string;
}

/** Nothing is read from disk, and a text that would never end is given up. */
const limits = { parseLimit: 100_000, renderLimit: 200, memoryLimit: 1_000_000, ownPropertyOnly: true, templates: {} };
const plain = new Liquid(limits);
const escaping = new Liquid({ ...limits, outputEscape: 'escape' });

/**
 * Writes an email by Liquid (`{{ first_name }}`, `{% if company %}`): text and HTML. HTML without a text of its own is made
 * of the text. Where the text does not hold the link to unsubscribe, a line with it is added.
 *
 * @throws Error where it cannot be read, or would never end
 */
export function writeMail(template: MailTemplate, facts: MailFacts): WrittenMail {
  const scope = { ...facts, record: facts.record };
  const text = withEnd(
    plain.parseAndRenderSync(template.text, scope).trim(),
    facts.unsubscribe,
    (link) => `\n\n--\nNo more of these emails: ${link}`,
  );
  const own = template.html.trim() ? escaping.parseAndRenderSync(template.html, scope) : '';
  return {
    // A line break would begin another header.
    subject: plain.parseAndRenderSync(template.subject, scope).replace(/\s+/g, ' ').trim(),
    text,
    html: own
      ? withEnd(own, escapeHtml(facts.unsubscribe), (link) => `<p><a href="${link}">No more of these emails</a></p>`)
      : htmlOf(text),
  };
}

/** The same, where a text that cannot be written is said in place of it. */
export function tryWriteMail(template: MailTemplate, facts: MailFacts): WrittenMail | { problem: string } {
  try {
    return writeMail(template, facts);
  } catch (error) {
    return { problem: `the email cannot be written: ${(error as Error).message.split(', ')[0]!}` };
  }
}

const withEnd = (text: string, link: string, end: (link: string) => string): string =>
  text.includes(link) ? text : text + end(link);

/** Plain text as HTML: paragraphs where lines are empty, addresses as links. */
function htmlOf(text: string): string {
  const paragraphs = text.split(/\n{2,}/).map((part) => escapeHtml(part).replace(/\n/g, '<br>'));
  const linked = paragraphs.map((part) => part.replace(/https?:\/\/[^\s<]+[^\s<.,;:!?)]/g, '<a href="$&">$&</a>'));
  return linked.map((part) => `<p>${part}</p>`).join('\n');
}

/** What is wrong with a part of an email, and what would be right; null where it can be written. */
export function findMailFault(text: string): { was: string; fix: string } | null {
  let names: string[];
  try {
    names = plain.globalVariablesSync(text);
  } catch (error) {
    const { message } = error as Error;
    const [, line = ''] = /line:(\d+)/.exec(message) ?? [];
    return {
      was: `it cannot be read${line ? `, line ${line}` : ''}: ${message.split(', ')[0]!}`,
      fix: 'Write what is put in as {{ first_name }}, and conditions as {% if company %} … {% endif %}.',
    };
  }
  const unknown = names.find((name) => name !== 'record' && !Object.hasOwn(mailFacts, name));
  return unknown === undefined
    ? null
    : {
        was: `nothing is known as {{ ${unknown} }}`,
        fix: `Write one of ${Object.keys(mailFacts).join(', ')}, or record with a field of the CRM, as {{ record.bikes }}.`,
      };
}
