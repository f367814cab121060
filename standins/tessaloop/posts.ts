/** A post in the feed; only some are paid for. */
export interface Post {
  id: string;
  by: string;
  text: string;
  ad: string;
  /** The form that opens from it; '' without one. */
  form: string;
  isPaid: boolean;
}

export const posts: Post[] = [
  {
    id: 'rounds-rain',
    by: 'Larkmoor Cargo Bikes',
    text: 'Six in the morning, sleet, forty loaves. The bike starts. So does the round.',
    ad: 'rain-still',
    form: 'F-1',
    isPaid: true,
  },
  {
    id: 'rounds-florist',
    by: 'Larkmoor Cargo Bikes',
    text: 'How many tulips fit between two wheels? Enough for a wedding.',
    ad: 'tulips-clip',
    form: 'F-2',
    isPaid: true,
  },
  {
    id: 'workshop',
    by: 'Larkmoor Cargo Bikes',
    text: 'A spoke takes eleven minutes. We counted.',
    ad: '',
    form: '',
    isPaid: false,
  },
];

/** What all ads belong to. */
export const campaign = 'uk-27q1-brand-rounds';

/** Links as the advertiser wrote them when the ad was first published; the feed adds its click ID by itself. */
export const linkTemplate =
  '?utm_source=tessaloop&utm_medium=paid-social&utm_campaign=~campaign-name~&utm_content=~ad-name~';

export const fillLink = (origin: string, { ad, isPaid }: Post, tsl: string): string => {
  const query = isPaid
    ? linkTemplate.replace('~campaign-name~', campaign).replace('~ad-name~', ad)
    : `?utm_source=tessaloop&utm_medium=organic-social&utm_campaign=${campaign}`;
  return `${origin}/${query}&tsl=${encodeURIComponent(tsl)}`;
};
