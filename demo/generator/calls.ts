import type { DemoEvent } from './journeys';
import { pretendStallholder } from './names';
import { makeRandom } from './random';
import type { DemoSize } from './sizes';

const minute = 60_000;
const hour = 60 * minute;
const day = 24 * hour;

/** Browsers of callers, apart from those of the other journeys. */
const firstBrowser = 9_000_000;
/** Callers, apart from the holders of stalls who send the social platform's own forms. */
const firstCaller = 500;
const lines = { everybody: '01632 960018', flyer: '01632 960027' };
/** So many days before the end the numbers were connected. */
const connectedSince = 60;

/**
 * Calls of the last weeks before `end` (ms): of people who came by an ad and read out the code on the page, or did not; of
 * people who have the trade fair's flyer; a wrong number, a code that was misheard, and calls that nobody answered, of which
 * some are made again. Sales then makes a record by hand. In no demo without faults, and in no order.
 */
export function generateCalls(size: DemoSize, end: number, seed = 3907): DemoEvent[] {
  if (!size.faults) return [];
  const random = makeRandom(seed);
  const midnight = Math.floor(end / day) * day;
  const step = size.lately > 100 ? 1 : 4;
  const events: DemoEvent[] = [];
  for (let days = connectedSince, n = 0; days > 0; days -= step, n++) {
    const at = midnight - days * day + random.whole(9 * 60, 16 * 60) * minute;
    events.push(...caller(random, n, at));
  }
  return events;
}

function caller(random: ReturnType<typeof makeRandom>, n: number, at: number): DemoEvent[] {
  const person = pretendStallholder(firstCaller + n);
  const browser = firstBrowser + n;
  const hasFlyer = n % 4 === 3;
  const dialled = hasFlyer ? lines.flyer : lines.everybody;
  const call = (time: number, seconds: number, says: boolean): DemoEvent => ({
    // It is told of once it ends.
    ...{ kind: 'calls', at: time + seconds * 1000, browser: hasFlyer ? null : browser, says },
    ...{ dialled, caller: person.telephone, seconds },
  });
  const events: DemoEvent[] = [];
  if (!hasFlyer) {
    const browserOf = { browser, works: true, caps: false };
    const key = `Qs${Buffer.from(random.bytes(12)).toString('base64url')}`;
    const ad = 'uk-27q1-fleet-winterproof.hill-video';
    events.push({ kind: 'click', at: at - 9 * minute, ...browserOf, ad, key, lands: true, strips: false });
    const page = { path: '/fleet/lease', query: '', referrer: 'own', short: false, bot: false, office: false };
    events.push({ kind: 'page', at: at - 3 * minute, ...browserOf, ...page });
  }
  // A wrong number.
  if (n % 9 === 5) return [...events, call(at, 7, false)];
  const says = !hasFlyer && n % 3 !== 2;
  const isMissed = n % 5 === 4;
  if (isMissed) events.push(call(at, 0, false));
  // Some of whom nobody answered do not call again.
  if (isMissed && n % 2 === 0) return events;
  const spoken = isMissed ? at + 2 * hour : at;
  events.push(call(spoken, random.whole(60, 600), says));
  const noted = spoken + 20 * minute;
  events.push({ kind: 'rings', at: noted, person });
  events.push({ kind: 'stage', at: noted + 5 * minute, mail: person.mail, stage: 'Spoken' });
  if (n % 3 === 0) events.push({ kind: 'stage', at: noted + 2 * day, mail: person.mail, stage: 'Fleet assessed' });
  return events;
}
