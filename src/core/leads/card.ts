/** The few facts about an enquiry that sales reads first. */
export interface LeadCard {
  /** Who it is. */
  title: string;
  rows: CardRow[];
}

export interface CardRow {
  name: string;
  value: string;
  /** What the CRM shows beside it anyway, so that a note there leaves it out. */
  isInCrm: boolean;
}

/** What the card is made of, in words; '' for what is not known or not the case. */
export interface CardFacts {
  title: string;
  person: string;
  /** The touch that brought it: source, campaign and ad. */
  cameFrom: string;
  /** The first touch with its day, where that is another one. */
  firstSeen: string;
  /** When, and by which form; or when they ordered, or subscribed. */
  enquired: string;
  ordered: string;
  signedUp: string;
  /** Enquiries of the same person before. */
  before: string;
  stage: string;
}

/** The card of an enquiry, in the order in which sales reads it; what is empty is left out, but never where it came from. */
export function leadCard({
  title,
  person,
  cameFrom,
  firstSeen,
  enquired,
  ordered,
  signedUp,
  before,
  stage,
}: CardFacts): LeadCard {
  const rows: [name: string, value: string, isInCrm: boolean][] = [
    ['Person', person === title ? '' : person, true],
    ['Came from', cameFrom || 'not known', false],
    ['First seen', firstSeen, false],
    ['Enquired', enquired, false],
    ['Ordered', ordered, false],
    ['Signed up', signedUp, false],
    ['Before', before, false],
    ['Stage', stage, true],
  ];
  return {
    title,
    rows: rows.filter(([, value]) => value !== '').map(([name, value, isInCrm]) => ({ name, value, isInCrm })),
  };
}

/** The card as text, to be pasted into a message. */
export const cardText = ({ title, rows }: LeadCard): string =>
  [title, ...rows.map(({ name, value }) => `${name}: ${value}`)].join('\n');

/** The card as a note in the CRM, which knows who it is and how far. @param link to the lead's page; '' for none */
export const cardNote = ({ rows }: LeadCard, link: string): string =>
  [...rows.filter(({ isInCrm }) => !isInCrm).map(({ name, value }) => `${name}: ${value}`), link]
    .filter(Boolean)
    .join('\n');
