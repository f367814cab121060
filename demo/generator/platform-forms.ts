import type { DemoEvent } from './journeys';
import { pretendStallholder } from './names';
import type { DemoSize } from './sizes';

const day = 86_400_000;
const hour = 3_600_000;
/** So many days before the end somebody has Avrix fetch what the social platform's own forms took. */
const fetchedSince = 9;
const forms = [
  { form: 'F-1', ad: 'rain-still' },
  { form: 'F-2', ad: 'tulips-clip' },
  { form: 'F-1', ad: 'hill-clip' },
];

/**
 * What people sent with the social platform's own forms, from 80 days before `end` (ms) on: for a long time nobody fetched
 * it, so that what was sent first is gone by then. A test lead is among them. In no demo without faults.
 */
export function generatePlatformForms(size: DemoSize, end: number): DemoEvent[] {
  if (!size.faults) return [];
  const midnight = Math.floor(end / day) * day;
  const at = (days: number, hours: number) => midnight - days * day + hours * hour;
  const step = size.lately > 100 ? 1 : 4;
  const events: DemoEvent[] = [
    { kind: 'fetches', at: at(fetchedSince, 9) },
    {
      kind: 'sends_there',
      at: at(6, 10),
      form: 'F-1',
      ad: 'rain-still',
      place: 'feed',
      test: true,
      person: { name: 'Test', company: '', mail: 'test@tessaloop.example', telephone: '', bikes: 0 },
    },
  ];
  for (let days = 80, n = 0; days > 0; days -= step, n++) {
    const person = pretendStallholder(n);
    const sentAt = at(days, 8 + (n % 10));
    const place = n % 4 === 3 ? 'chat' : 'feed';
    events.push({ kind: 'sends_there', at: sentAt, ...forms[n % forms.length]!, place, test: false, person });
    // Sales can only ring who is in the CRM: from the day after it was fetched, or sent, on.
    const known = Math.max(sentAt, at(fetchedSince, 9)) + day;
    const isGone = days > 60 + fetchedSince;
    if (isGone || n % 3 === 2) continue;
    events.push({ kind: 'stage', at: known + 2 * hour, mail: person.mail, stage: 'Spoken' });
    if (n % 6 !== 0) continue;
    events.push({ kind: 'values', at: known + day, mail: person.mail, profit: person.bikes * 180 });
    events.push({ kind: 'stage', at: known + day + hour, mail: person.mail, stage: 'Fleet assessed' });
  }
  return events;
}
