import { isToldAgain } from '../../core/capture/touch';
import { parseCookieText } from '../../core/capture/cookies';
import { readPointer } from '../../core/capture/pointer';
import { eventIdOf } from '../../core/events/event-id';
import { judgeEvent, type Moment } from '../../core/events/judge';
import { readValueOf, type Sources } from '../../core/events/readings';
import { lookUp } from '../natives';
import type { MakePart } from '../part';
import { onSaid } from '../said';

/** IDs of events that this browser told, the newest; what is told twice the server counts once. */
const mostRemembered = 80;
/** As much of a key as a hit holds. */
const longestKey = 300;
/** Fields whose contents are never read. */
const secret = /^(password|file)$/;

/** Sets events off: judges each moment of the page by the release's rules, and tells those that went off. */
export const part: MakePart = (tools) => {
  const { setup, listen, later, stored, toText } = tools;
  const remembered = stored<string>('events');
  return {
    clear: () => remembered.write([]),
    work(host) {
      const { hearing, onEnd, tell } = host;
      const { events: rules, readings } = setup.events!;
      const cues = rules.flatMap((rule) => rule.cues);
      /** What the page said of itself, the newest last. */
      let said: Record<string, unknown> = {};
      let ended = false;
      onEnd(() => (ended = true));

      /** Judges every event by what happened. */
      const happen = (kind: Moment['kind'], what: Partial<Moment>, sources: Partial<Sources> = {}) => {
        if (ended) return;
        const { id: hit, visit, visitor, address, referrer } = host.hitOf({ kind: 'consent' });
        const moment = { kind, address, page: host.split(address), ids: { hit, visit, visitor }, ...what };
        const kept = host.kept();
        const read = (id: string) => {
          const value = readValueOf(id, readings, {
            moment,
            from: host.split(referrer),
            kept,
            swaps: setup.rules.swaps,
            cookie: (name) => parseCookieText(document.cookie)[name] ?? '',
            element: (selector, attribute) => {
              const element = attempt(() => document.querySelector(selector), null);
              return element ? textOf(element, attribute) : '';
            },
            page: (pointer) => plain(readPointer(said, pointer)),
            hash: hearing.hash,
            ...sources,
          });
          return value && host.isPersonal(value) ? '' : value;
        };
        for (const rule of rules) {
          const all = judgeEvent(rule, { ...moment, read });
          hearing.judged?.(rule, all, kind);
          if (!all.went) continue;
          const key = all.key!.slice(0, longestKey);
          const id = eventIdOf(rule.name, key);
          const known = remembered.read();
          if (known.includes(id)) continue;
          remembered.write([...known, id].slice(-mostRemembered));
          tell({
            kind: 'event',
            event: rule.name,
            key,
            cue: all.cues.findIndex(({ holds }) => holds),
            reads: rule.reads.map((reading) => ({ reading, value: read(reading) ?? '' })),
          });
        }
      };

      const say = (what: unknown) => {
        said = { ...said, ...(what as Record<string, unknown>) };
        const { event } = (what ?? {}) as { event?: unknown };
        if (event) happen('said', { said: [event].flat().map(String) });
      };

      /** What the page has come to since somebody arrived there. */
      let [deepest, seconds] = [0, 0];
      const readDown = () => {
        const { scrollHeight } = document.documentElement;
        const depth = Math.min(100, Math.round(((scrollY + innerHeight) / scrollHeight) * 100));
        if (depth <= deepest) return;
        const passed = cues.some(({ kind, amount }) => kind === 'reads_down' && amount > deepest && amount <= depth);
        deepest = depth;
        if (passed) happen('read_to', { amount: depth });
      };
      const longest = Math.max(0, ...cues.map(({ kind, amount }) => (kind === 'stays' ? amount : 0)));
      const stay = () => {
        if (ended || seconds >= longest) return;
        later(() => {
          if (document.visibilityState === 'visible') seconds++;
          if (cues.some(({ kind, amount }) => kind === 'stays' && amount === seconds))
            happen('stayed', { amount: seconds });
          stay();
        }, 1000);
      };
      const arrive = (navigation: Parameters<typeof isToldAgain>[0]) => {
        [deepest, seconds] = [0, 0];
        happen('arrived', { isAgain: isToldAgain(navigation) });
      };

      hearing.told.push((rest) => {
        if (rest.kind === 'arrived') {
          const isOver = seconds >= longest;
          arrive(rest.navigation);
          if (isOver) stay();
        }
        if (rest.kind === 'ordered') happen('ordered', { order: rest.number });
      });
      hearing.pressed.push((press, element) =>
        happen(
          'pressed',
          { press, meets: (selector) => attempt(() => lookUp(element, 'closest', selector) !== null, false) },
          { attribute: (name) => textOf(element, name) },
        ),
      );
      hearing.sent.push((form, leadToken, element) =>
        happen(
          'sent',
          { form, leadToken },
          { field: (name) => (element ? fieldValue(host.fieldsOf(element), name) : '') },
        ),
      );

      for (const { kind, text } of cues)
        if (kind === 'reads_to') {
          const observer = new IntersectionObserver((entries) =>
            entries.forEach(
              ({ isIntersecting, target }) =>
                isIntersecting &&
                happen('read_to', { meets: (one) => attempt(() => lookUp(target, 'matches', one), false) }),
            ),
          );
          host.watch(text, (element) => observer.observe(element));
          onEnd(() => observer.disconnect());
        }
      if (cues.some(({ kind }) => kind === 'reads_down')) {
        onEnd(listen(document, 'scroll', () => later(readDown)));
        later(readDown, 1000);
      }
      if (longest > 0) stay();
      const [timing] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
      later(() => arrive((timing?.type ?? 'navigate') as never));
      onSaid(tools, host, say);

      function plain(value: unknown): string {
        if (value === undefined || value === null) return '';
        return typeof value === 'object' ? toText(value) : String(value);
      }
    },
  };
};

/** What is looked for, or the rest where that is no selector: one event's mistake stops no other event. */
function attempt<T>(look: () => T, otherwise: T): T {
  try {
    return look();
  } catch {
    return otherwise;
  }
}

/** The words of an element, or one of its attributes. */
const textOf = (element: Element, attribute: string): string =>
  attribute
    ? (lookUp(element, 'getAttribute', attribute) ?? '')
    : (element.textContent ?? '').replace(/\s+/g, ' ').trim();

/** What is in a form's field; of radio buttons the one that is chosen. Never what is secret. */
function fieldValue(fields: HTMLInputElement[], name: string): string {
  const found = fields.filter((field) => field.name === name && !secret.test(field.type));
  const field = found.find(({ type, checked }) => !/^(radio|checkbox)$/.test(type) || checked);
  return field && !/^cc-/.test(field.autocomplete) ? field.value : '';
}
