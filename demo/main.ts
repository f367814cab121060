import { generate, sizes } from './generator/journeys';
import { readPlaces } from './places';
import { makeReplay } from './replay';
import { larkmoorSetup } from './setup/business';

const day = 86_400_000;

/**
 * Sets Larkmoor up and replays its days in order: everything goes in through the doors that live traffic uses, the
 * application, its background work and the stand-ins move on one clock, and each day comes to rest before the next.
 */
async function load(): Promise<void> {
  const places = readPlaces(process.env);
  const size = sizes[places.size]!;
  const evening = Date.parse(`${places.lastDay}T17:00:00Z`);
  const end = Math.min(evening, places.lastDay === new Date().toISOString().slice(0, 10) ? Date.now() : evening);
  const events = generate(size, end, places.quillsearch);
  const begin = Math.floor(events[0]!.at / day) * day;

  const moveTo = async (at: number) => {
    await Promise.all([places.standins('clock', { at, replaying: true }), places.avrix('clock', { at, paused: true })]);
  };
  const restAt = async (at: number) => {
    await moveTo(at);
    await places.standins('rest');
    await places.avrix('rest');
  };
  const started = performance.now();
  await moveTo(begin);
  await places.avrix('business', larkmoorSetup(places));
  const form = { 'content-type': 'application/x-www-form-urlencoded' };
  await places.ask(`${places.quillsearch}/account/outcomes`, form, 'code=FLT-QUAL');

  const replay = makeReplay(places);
  let said = 0;
  let next = begin + day;
  for (const [done, event] of events.entries()) {
    for (; event.at >= next; next += day) await restAt(next);
    await moveTo(event.at);
    await replay(event);
    if (performance.now() - said > 2000) {
      said = performance.now();
      const date = new Date(event.at).toISOString().slice(0, 10);
      console.log(`Loading the demo: ${date}, ${done + 1} of ${events.length} events`);
    }
  }
  await restAt(end);
  await places.standins('clock', { at: end, replaying: false });
  await places.avrix('clock', { at: end, paused: false });
  const seconds = ((performance.now() - started) / 1000).toFixed(0);
  console.log(`The demo is loaded: ${events.length} events in ${seconds} seconds.`);
}

process.send?.('ready');
await load();
process.exit(0);
