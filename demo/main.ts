import { emailDays } from './generator/emails';
import { generate, type DemoEvent } from './generator/journeys';
import { sizes } from './generator/sizes';
import { readPlaces } from './places';
import { isVisit, makeReplay, type Visit } from './replay';
import { makeSeason } from './season';
import { larkmoorSetup } from './setup/business';
import { larkmoorWork } from './setup/work';

const day = 86_400_000;
/** Days that come to rest together, as long as they are longer ago than the last ones anyone looks at. */
const oldDaysTogether = 7;
/** What happens at a desk that emails may follow. */
const writesNow: DemoEvent['kind'][] = ['form', 'starts_routines', 'writes_back'];
/** Sums of days are written when all days are there: nobody reads them before. */
const sums = ['roll_up'];

/**
 * Sets Larkmoor up and replays its days in order: everything goes in through the doors that live traffic uses, each at
 * its own time, and each day (of the older ones, some together) comes to rest before the next: first the pages of all visitors, then what concerns the CRM,
 * one after the other on one clock of the application and the stand-ins, then the background work.
 */
async function load(): Promise<void> {
  const places = readPlaces(process.env);
  const size = sizes[places.size];
  const evening = Date.parse(`${places.lastDay}T17:00:00Z`);
  const end = Math.min(evening, places.lastDay === new Date().toISOString().slice(0, 10) ? Date.now() : evening);
  const season = makeSeason(places.lastDay);
  const events = season(generate(size, end, places.quillsearch));
  const begin = Math.floor(events[0]!.at / day) * day;

  const moveTo = async (at: number) => {
    await Promise.all([places.standins('clock', { at, replaying: true }), places.avrix('clock', { at, paused: true })]);
  };
  const started = performance.now();
  await moveTo(begin);
  await places.avrix('business', {
    ...season(larkmoorSetup(places, size.faults)),
    ...season(larkmoorWork(places.larkmoor)),
  });
  const form = { 'content-type': 'application/x-www-form-urlencoded' };
  for (const code of ['FLT-QUAL', 'SHP-PAID'])
    await places.ask(`${places.quillsearch}/account/outcomes`, form, `code=${code}`);

  const replay = makeReplay(places, events);
  const restAt = async (at: number) => {
    await replay.handOver(at);
    await places.avrix('rest', { later: sums });
  };
  const days: Days[] = [];
  for (let from = begin; from < end; from = days.at(-1)!.end) {
    const isOld = end - from > (size.latelyDays + oldDaysTogether) * day;
    days.push(daysFrom(events, from, Math.min(end, from + (isOld ? oldDaysTogether : 1) * day)));
  }
  await replay.visits(days[0]!.visits);
  let done = 0;
  for (const [i, today] of days.entries()) {
    const isLately = end - today.end < emailDays * day;
    for (const event of today.desk) {
      await moveTo(event.at);
      await replay.desk(event);
      // Emails go out as their time comes.
      if (isLately && writesNow.includes(event.kind)) await restAt(event.at + 1);
    }
    await replay.handOver(today.end);
    await moveTo(today.end);
    await places.standins('rest');
    // The pages of the next day open while this one comes to rest.
    await Promise.all([places.avrix('rest', { later: sums }), replay.visits(days[i + 1]?.visits ?? [])]);
    done += today.visits.length + today.desk.length;
    sayHowFar(today, done, events.length);
  }
  await places.avrix('rest');
  await places.standins('clock', { at: end, replaying: false });
  await places.avrix('clock', { at: end, paused: false });
  const seconds = ((performance.now() - started) / 1000).toFixed(0);
  console.log(`The demo is loaded: ${events.length} events in ${seconds} seconds.`);
}

/** One day, or some that come to rest together. */
interface Days {
  visits: Visit[];
  desk: Exclude<DemoEvent, Visit>[];
  end: number;
}

function daysFrom(events: DemoEvent[], from: number, end: number): Days {
  const own = events.filter((event) => event.at >= from && event.at < end);
  return { visits: own.filter(isVisit), desk: own.filter((event) => !isVisit(event)) as Days['desk'], end };
}

let said = 0;
function sayHowFar({ end }: Days, done: number, all: number): void {
  if (performance.now() - said < 2000) return;
  said = performance.now();
  const date = new Date(end - 1).toISOString().slice(0, 10);
  console.log(`Loading the demo: ${date}, ${done} of ${all} events, ${Math.floor((100 * done) / all)} %`);
}

process.send?.('ready');
await load();
process.exit(0);
