import { hostOf, isUnder } from '../capture/address';
import type { CaptureRules } from '../capture/schema';
import type { Press } from './press';
import type { EventRule } from './schema';
import { freshCue, freshEvent, usualOnceFor } from './words';

/** A link or button that was pressed lately, with how often. */
export interface PressCount {
  press: Press;
  count: number;
}

/** An event that fits what the website already does, with why it is offered. */
export interface Starter {
  rule: EventRule;
  why: string;
}

/** Presses of a host outside before its links are offered as an event. */
const oftenPressed = 5;

function starter(
  name: string,
  words: string,
  cues: [kind: EventRule['cues'][number]['kind'], text: string][],
  why: string,
): Starter {
  const made = cues.map(([kind, text]) => ({ ...freshCue(kind), text }));
  return { rule: { ...freshEvent(), name, words, cues: made, onceFor: usualOnceFor(made[0]!.kind) }, why };
}

/** A host as a part of an event's name: its last part before the ending. */
const nameOfHost = (host: string): string =>
  (host.split('.').at(-2) ?? host)
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+/, '') || 'outside';

/**
 * Events offered to a business by what its website does already: forms that are followed, orders that are read, a telephone
 * number that is pressed, and hosts outside whose links are pressed often.
 *
 * @param known names of events that are there
 */
export function startersFor(
  { forms, orders, elsewhere, touch }: Pick<CaptureRules, 'forms' | 'orders' | 'elsewhere' | 'touch'>,
  presses: readonly PressCount[],
  known: readonly EventRule[],
): Starter[] {
  const offered: Starter[] = [];
  if (forms.length > 0)
    offered.push(
      starter(
        'enquiry_sent',
        'Enquiry sent',
        forms.map(({ name }) => ['sends', name]),
        `${forms.length === 1 ? 'a form is' : `${forms.length} forms are`} counted as enquiries`,
      ),
    );
  if (orders.length > 0) offered.push(starter('order_paid', 'Order paid', [['orders', '']], 'pages say orders'));
  const dialled = presses
    .filter(({ press }) => press.link.startsWith('tel:'))
    .reduce((sum, { count }) => sum + count, 0);
  if (dialled > 0)
    offered.push(
      starter('call_started', 'Telephone number pressed', [['leaves_for', 'tel:']], `pressed ${dialled} times`),
    );
  const hosts = new Map<string, number>();
  for (const { press, count } of presses) {
    const host = hostOf(press.link);
    if (host !== '' && !touch.ownHosts.some((own) => isUnder(host, own)))
      hosts.set(host, (hosts.get(host) ?? 0) + count);
  }
  for (const [host, count] of [...hosts].sort((a, b) => b[1] - a[1])) {
    if (count < oftenPressed) continue;
    const calendar = elsewhere.find((place) => place.kind === 'calendar' && isUnder(host, place.host));
    const why = `its links were pressed ${count} times`;
    offered.push(
      calendar
        ? starter('booking_opened', `${calendar.name} opened`, [['leaves_for', host]], why)
        : starter(`${nameOfHost(host)}_opened`.slice(0, 40), `${host} opened`, [['leaves_for', host]], why),
    );
  }
  const isKnown = ({ rule }: Starter) =>
    known.some(({ name, cues }) => name === rule.name || rule.cues.every((cue) => cues.some((one) => same(one, cue))));
  return offered.filter((one) => !isKnown(one));
}

const same = (one: EventRule['cues'][number], other: EventRule['cues'][number]): boolean =>
  one.kind === other.kind && one.text === other.text;
