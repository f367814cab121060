import type { Random } from './random';

const first = [
  'Anna',
  'Bram',
  'Ciara',
  'Dilys',
  'Eamon',
  'Femke',
  'Gwen',
  'Hamza',
  'Isla',
  'Joost',
  'Keira',
  'Lotte',
  'Morag',
  'Niall',
  'Oona',
  'Piotr',
  'Rhys',
  'Saoirse',
  'Teun',
  'Una',
];
const last = [
  'Abara',
  'Brandt',
  'Cadwell',
  'Doyle',
  'Ekker',
  'Farrow',
  'Gould',
  'Hendriks',
  'Imrie',
  'Jansen',
  'Kerr',
  'Lamb',
  'Moss',
  'Nolan',
  'Okafor',
  'Prins',
  'Quirke',
  'Rowe',
  'Sloan',
  'Trevail',
];
const proper = [
  'Oriel',
  'Tern',
  'Harrow',
  'Penrose',
  'Kittiwake',
  'Marram',
  'Ashdown',
  'Bluegate',
  'Corran',
  'Dunlin',
  'Eider',
  'Fennick',
  'Garnet',
  'Heron',
  'Inch',
  'Juniper',
  'Knapp',
  'Linnet',
  'Merle',
  'Nettle',
  'Osier',
  'Plover',
  'Quay',
  'Rook',
  'Sorrel',
  'Teasel',
  'Umber',
  'Vetch',
  'Whin',
  'Yarrow',
];
const shapes = {
  uk: [
    'Bakery @',
    '@ & Co Florists',
    '@ Parcel',
    '@ Plumbing',
    '@ Bread',
    'The @ Flower Room',
    '@ Couriers',
    '@ Grocers',
  ],
  ie: ['@ Bakehouse', '@ Brothers Bread', 'Café @', '@ Deliveries'],
  nl: ['@ Bloemen', 'Bakkerij @', 'Van @ Koeriers', '@ Fietsbezorging'],
};
export type Market = keyof typeof shapes;

export interface PretendPerson {
  name: string;
  company: string;
  mail: string;
  telephone: string;
  bikes: number;
}

/** Ranges of telephone numbers that the regulator keeps free for made-up people. */
const exchanges = [
  '01632 960',
  '0113 496 0',
  '0114 496 0',
  '0115 496 0',
  '0116 496 0',
  '0117 496 0',
  '0118 496 0',
].concat(['0121 496 0', '0131 496 0', '0141 496 0', '0151 496 0', '0161 496 0', '0191 498 0']);

/** Invented small businesses and first names; each mail address and telephone number once. */
export function makePeople(random: Random) {
  const used = new Map<string, number>();
  const numbers = new Map<number, number>();
  /** A number that ends so, at the next exchange each time. */
  const numberEnding = (own: number) => {
    const times = numbers.get(own) ?? 0;
    numbers.set(own, times + 1);
    return `${exchanges[times % exchanges.length]}${own}`;
  };
  return (market: Market): PretendPerson => {
    const name = `${random.pick(first)} ${random.pick(last)}`;
    const proper_ = random.pick(proper);
    const base = random.pick(shapes[market]).replace('@', proper_);
    const times = (used.get(base) ?? 0) + 1;
    used.set(base, times);
    const company =
      times === 1 ? base : `${base} ${['', '', 'East', 'Harbour', 'North', 'Hill', 'Market', 'West'][times] ?? times}`;
    const host = company
      .toLowerCase()
      .normalize('NFD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '');
    return {
      name,
      company,
      mail: `${name.split(' ')[0]!.toLowerCase()}@${host}.example`,
      telephone: random.chance(0.6) ? numberEnding(random.whole(100, 999)) : '',
      bikes: random.weighted([
        [5, 1],
        [5, 2],
        [4, 3],
        [2, 5],
        [1, 12],
      ]),
    };
  };
}

/** The invented holder of a market stall of that number, with a telephone number that is kept free for made-up people. */
export function pretendStallholder(n: number): PretendPerson {
  const [given, family] = [first[n % first.length]!, last[(n * 7) % last.length]!];
  const stall = proper[n % proper.length]!;
  return {
    name: `${given} ${family}`,
    company: `${stall} Market Stall${n < proper.length ? '' : ` ${Math.floor(n / proper.length) + 1}`}`,
    mail: `${given.toLowerCase()}.${n + 1}@${stall.toLowerCase()}-stall.example`,
    telephone: `07700 900${String(n % 1000).padStart(3, '0')}`,
    bikes: 1 + (n % 4),
  };
}
