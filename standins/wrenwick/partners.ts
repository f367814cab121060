/** Who is paid by Wrenwick for what their readers buy at Larkmoor. */
export interface Partner {
  id: string;
  name: string;
  title: string;
  text: string;
  /** Where its link leads on the advertiser's website. */
  page: string;
}

export const partners: Partner[] = [
  {
    id: 'pedal-post',
    name: 'Pedal Post',
    title: 'Six covers that kept the bread dry',
    text: 'We left each on a bike in the yard for a month of rain. One of them still closes.',
    page: '/shop',
  },
  {
    id: 'yard-and-round',
    name: 'Yard and Round',
    title: 'What a cargo bike needs in its second winter',
    text: 'Brake pads first, then a second lock. The rest can wait until spring.',
    page: '/shop',
  },
];

/** Wrenwick's links as an advertiser writes them; what stands in double square brackets is filled in at the click. */
export const linkTemplate =
  '?utm_source=wrenwick&utm_medium=partner&utm_campaign=uk-27q1-shop-partners&utm_content=[[partner]]&wwk=[[wwk]]';

export const fillLink = (origin: string, { id, page }: Partner, wwk: string): string =>
  origin +
  page +
  linkTemplate.replace(/\[\[(\w+)\]\]/g, (_, name: string) => encodeURIComponent(name === 'wwk' ? wwk : id));
