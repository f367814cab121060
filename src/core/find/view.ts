/** Something that was found, with its answer beside it: nobody has to open it to learn where it is from. */
export interface FoundRow {
  kind: 'lead' | 'order' | 'subscription' | 'click' | 'campaign' | 'link';
  id: string;
  /** What it is called; values stand between backticks. */
  title: string;
  /** Where it came from, or what it is. */
  answer: string;
  /** When it began, ISO 8601; '' where that says nothing. */
  at: string;
  /** How far it came, or what became of it; '' where nothing is to be said. */
  standing: string;
  /** True where values of it were lost. */
  isLost: boolean;
  /** Below the business's address. */
  path: string;
}

export interface FoundView {
  rows: FoundRow[];
  timeZone: string;
}

/** What the rows of a kind are called together. */
export const foundWords: Record<FoundRow['kind'], string> = {
  lead: 'Leads',
  order: 'Orders',
  subscription: 'Subscriptions',
  click: 'Clicks',
  campaign: 'Campaigns',
  link: 'Links',
};
