import { cleanAddress } from '../src/core/capture/pii';
import { rules } from '../src/core/capture/rules.fixture';
import { usualPiiNames } from '../src/core/capture/rules-schema';
import { compareRates, tell } from './lib/measure';

const by = { ...rules, pii: { names: usualPiiNames } };
/** What takes longest to look through, each repeated to any length. */
const kinds = {
  'one long word': 'a',
  'at signs': 'x@',
  'mails cut short': '@a.',
  'encoded again and again': '25',
  'pairs of the query': '&abc=12345%40',
  'numbers apart': '0+',
  'groups of numbers': '+1 ',
  'names of telephones': 'phone=',
  'listed names': '?email',
  'letters of another script': '%E6%97%A5',
};
const addressOf = (piece: string, length: number) =>
  `https://larkmoor.localhost/fleet?x=%${piece.repeat(Math.ceil(length / piece.length))}`.slice(0, length);

const millis = (work: () => void): number => {
  const began = performance.now();
  work();
  return performance.now() - began;
};

const short = Object.values(kinds).map((piece) => addressOf(piece, 8000));
const long = Object.values(kinds).map((piece) => addressOf(piece, 32_000));
/** Characters a second of addresses that are cleaned over and over, two million characters in all. */
const rateOf = (addresses: string[]) => () => {
  const characters = addresses.reduce((sum, address) => sum + address.length, 0);
  const turns = Math.ceil(2_000_000 / characters);
  const took = millis(() => {
    for (let turn = 0; turn < turns; turn++) for (const address of addresses) cleanAddress(address, by);
  });
  return Promise.resolve((turns * characters * 1000) / took);
};

const growth = await compareRates('address of 32,000', 0.7, 'characters', rateOf(short), rateOf(long));
for (const [name, piece] of Object.entries(kinds)) {
  const address = addressOf(piece, 8000);
  const times = Array.from({ length: 21 }, () => millis(() => void cleanAddress(address, by))).sort((a, b) => a - b);
  console.log(`8,000 characters, ${name}: ${times[10]!.toFixed(2)} ms`);
}
tell([growth]);
