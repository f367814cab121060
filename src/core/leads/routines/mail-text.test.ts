import { describe, expect, it } from 'vitest';
import { findMailFault, tryWriteMail, writeMail, type MailFacts } from './mail-text';

const facts: MailFacts = {
  first_name: 'Ines',
  name: 'Ines Brannock',
  company: 'Brannock & <Sons>',
  form: 'Ask for a test ride',
  enquired: '14 Feb',
  came_from: 'Paid search on Quillsearch',
  business: 'Larkmoor Cargo Bikes',
  unsubscribe: 'http://edge.example/stop/larkmoor/abc',
  record: { bikes: '3' },
};
const mail = (text: string, html = '', subject = 'Hello') => writeMail({ subject, text, html }, facts);

describe('An email', () => {
  it('says what is known of whoever it goes to, and what only some have', () => {
    const { text } = mail('Hello {{ first_name }}{% if record.bikes %}, {{ record.bikes }} bikes{% endif %}.');
    expect(text).toContain('Hello Ines, 3 bikes.');
  });

  it('always holds the link by which they unsubscribe, once', () => {
    expect(mail('Hello').text).toBe(`Hello\n\n--\nNo more of these emails: ${facts.unsubscribe}`);
    const own = mail('Hello\n\nStop: {{ unsubscribe }}');
    expect(own.text.split(facts.unsubscribe)).toHaveLength(2);
    expect(mail('Hello', '<p>Hello</p>').html).toContain(`href="${facts.unsubscribe}"`);
  });

  it('is made HTML of its text, in which nothing that somebody typed is markup', () => {
    const { html } = mail('For {{ company }}\nsee https://larkmoor.example/fleet.');
    expect(html).toContain('<p>For Brannock &amp; &lt;Sons&gt;<br>see <a href="https://larkmoor.example/fleet">');
    expect(mail('x', '<p>{{ company }}</p>').html).toContain('<p>Brannock &amp; &lt;Sons&gt;</p>');
  });

  it('has a subject of one line', () => {
    expect(mail('x', '', 'For {{ first_name }}\r\nBcc: x@larkmoor.example').subject).toBe(
      'For Ines Bcc: x@larkmoor.example',
    );
  });

  it('is refused with a name that is not known, or that cannot be read', () => {
    expect(findMailFault('Hello {{ first_name }} {{ record.bikes }}')).toBeNull();
    expect(findMailFault('Hello {{ firstname }}')?.was).toBe('nothing is known as {{ firstname }}');
    expect(findMailFault('Hello {{ name ')?.was).toContain('it cannot be read');
    expect(findMailFault('{% if name %}x')?.was).toContain('it cannot be read');
    expect(findMailFault('{% include "x" %}')).not.toBeNull();
  });

  it('does not write for ever', () => {
    const endless = { subject: 'x', text: '{% for i in (1..100000000) %}{{ i }}{% endfor %}', html: '' };
    expect(() => writeMail(endless, facts)).toThrow();
    expect(tryWriteMail(endless, facts)).toMatchObject({ problem: expect.stringContaining('cannot be written') });
  });
});
