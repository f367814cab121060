import { describe, expect, it } from 'vitest';
import { cardNote, cardText, leadCard } from './card';

const facts = {
  title: 'Baker Weekly',
  person: 'Ada Penrose',
  cameFrom: 'Paid search on Quillsearch, Winterproof, hill video',
  firstSeen: '3 Jan, 10:12, Organic search',
  enquired: '14 Jan, 09:42, the form “Ask for a test ride”',
  ordered: '',
  signedUp: '',
  before: '',
  stage: 'Offer',
};

describe('the card that sales reads', () => {
  it('is copied with who it is, where from and how far', () => {
    expect(cardText(leadCard(facts))).toBe(
      [
        'Baker Weekly',
        'Person: Ada Penrose',
        'Came from: Paid search on Quillsearch, Winterproof, hill video',
        'First seen: 3 Jan, 10:12, Organic search',
        'Enquired: 14 Jan, 09:42, the form “Ask for a test ride”',
        'Stage: Offer',
      ].join('\n'),
    );
  });

  it('leaves out of a note what the CRM says itself, and ends with the link', () => {
    const note = cardNote(leadCard(facts), 'http://avrix.localhost/b/larkmoor/leads/7');
    expect(note.split('\n')).toEqual([
      'Came from: Paid search on Quillsearch, Winterproof, hill video',
      'First seen: 3 Jan, 10:12, Organic search',
      'Enquired: 14 Jan, 09:42, the form “Ask for a test ride”',
      'http://avrix.localhost/b/larkmoor/leads/7',
    ]);
  });

  it('says that nothing is known of where somebody came from', () => {
    const card = leadCard({ ...facts, person: facts.title, cameFrom: '', firstSeen: '' });
    expect(card.rows.map(({ name, value }) => `${name}: ${value}`)).toEqual([
      'Came from: not known',
      'Enquired: 14 Jan, 09:42, the form “Ask for a test ride”',
      'Stage: Offer',
    ]);
  });
});
