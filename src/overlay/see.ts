import { piiIn, type FillReport } from '../core/capture';
import { keptWords } from '../core/capture/trial';
import { leadsTo, plainWords } from '../core/events/press';
import type { EventJudged } from '../core/events/judge';
import type { Cue, EventRule } from '../core/events/schema';
import { readingName } from '../core/events/words';
import { tellersOf, valueIn, wireName } from '../core/events/wires';
import { faceOf } from '../core/destinations/faces';
import { listed } from '../core/listed';
import { seenWords } from '../core/reasons/seen-words';
import { lookUp } from '../snippet/natives';
import type { MakePart } from '../snippet/part';
import { pressable, pressOf } from '../snippet/press-of';
import { makeNotes } from './notes';
import { openPanel, type Said } from './panel';

/** Sentences that are shown, the newest first. */
const mostLines = 14;

interface Line {
  rule: EventRule;
  judged: EventJudged;
  isTold: boolean;
  /** Where it would be told. */
  told: string[];
}

const fillWords: Record<FillReport['state'], (report: FillReport) => Said> = {
  filled: ({ field, value }) => ['p', ['code', field], ' = ', ['code', value]],
  had_value: ({ field }) => ['p', ['code', field], ' was filled already'],
  no_value: ({ field }) => ['p', ['code', field], ' stays empty: nothing is kept'],
  not_found: ({ field }) => ['p', 'no field ', ['code', field]],
  near: ({ field, near }) => ['p', 'no field ', ['code', field], '; ', ['code', near], ' is nearly the same'],
};

/** Shows on the page itself what Avrix sees and does there, and why. Only somebody who sees through the page loads it. */
export const part: MakePart = ({ setup }) => ({
  work(host) {
    const { events, rules } = setup;
    const seen = setup.seen!;
    const panel = openPanel('What Avrix sees and does here');
    const notes = makeNotes();
    const lines: Line[] = [];
    // On a small screen the page comes first.
    let isOpen = innerWidth >= 700;

    const nameOf = (id: string) => readingName(id, events?.readings ?? []);

    /** Where an event would be told, and as what. */
    const toldOf = (name: string, reads: { reading: string; value: string }[]): string[] =>
      seen.wires
        .filter(({ event }) => event === name)
        .map((wire) => {
          const cleaning = faceOf(wire.kind, seen.platforms)?.named.cleaning ?? null;
          const as = wireName(wire.named, cleaning, valueIn(reads));
          return `${seen.accounts[wire.account] ?? wire.account} as \`${as}\`, from the ${listed([...tellersOf(wire)])}`;
        });

    const draw = () => {
      const kept = keptWords(host.kept(), seen.platforms);
      const words = lines
        .map(({ rule, judged, isTold, told }) => ({ words: seenWords(rule, judged, isTold, nameOf), told }))
        .filter((line) => line.words !== '');
      panel.show(
        ['h2', seen.rules === 'live' ? 'Avrix here, by what is live' : 'Avrix here, by the draft'],
        ['p', ['small', 'Nothing of it is counted or told. A form that you send is a real one.']],
        ...(isOpen
          ? ([
              words.length === 0
                ? ['p', 'No event had a moment yet: arrive, press, send.']
                : [
                    'ol',
                    ...words.map((line): Said => [
                      'li',
                      ...saidOf(line.words),
                      ...(line.told.length > 0
                        ? [['small', 'Would be told to ', ...saidOf(line.told.join('; ')), '.'] as Said]
                        : []),
                    ]),
                  ],
              ['h2', 'Kept in this browser'],
              kept.length === 0
                ? ['p', 'Nothing.']
                : ['ul', ...kept.map(({ words: what, value }): Said => ['li', `${what}: `, ['code', value]])],
            ] as Said[])
          : []),
      );
      panel.button(isOpen ? 'Hide' : 'Show', () => {
        isOpen = !isOpen;
        notes.show(isOpen);
        draw();
      });
      panel.button('Other corner', () => panel.move());
    };

    host.hearing.judged = (rule, judged) => {
      lines.unshift({ rule, judged, isTold: false, told: [] });
      lines.splice(mostLines * 4);
      draw();
    };
    host.hearing.told.push((rest) => {
      const line = rest.kind === 'event' && lines.find(({ rule }) => rule.name === rest.event);
      if (line && rest.kind === 'event') Object.assign(line, { isTold: true, told: toldOf(rest.event, rest.reads) });
      draw();
    });
    host.onForm((form, fills) => {
      const name = host.nameOf(form);
      const sends = (events?.events ?? []).filter(({ cues }) =>
        cues.some(({ kind, text }) => kind === 'sends' && text === name),
      );
      if (fills.length === 0 && sends.length === 0) return;
      notes.pin(
        form,
        [
          'p',
          'Form ',
          ['code', name || 'without a name'],
          rules.forms.some((one) => one.name === name) ? ', an enquiry' : '',
        ],
        ...fills.map((report) => fillWords[report.state](report)),
        ...sends.map(({ name: event }): Said => ['p', 'Sent, it sets off ', ['code', event]]),
      );
    });
    host.watch(pressable, (element) => {
      const press = pressOf(element, piiIn);
      const isMet = ({ kind, text }: Cue) =>
        kind === 'presses'
          ? meets(element, text)
          : kind === 'presses_words'
            ? plainWords(press.text) === plainWords(text)
            : kind === 'leaves_for' && leadsTo(press.link, text);
      const set = (events?.events ?? []).filter(({ cues }) => cues.some(isMet));
      if (set.length > 0)
        notes.pin(element, ...set.map(({ name }): Said => ['p', 'Pressed, it sets off ', ['code', name]]));
    });
    host.onEnd(() => {
      panel.close();
      notes.close();
    });
    notes.show(isOpen);
    draw();
  },
});

function meets(element: Element, selector: string): boolean {
  try {
    return lookUp(element, 'closest', selector) !== null;
  } catch {
    return false;
  }
}

/** A sentence with its values set apart. */
const saidOf = (text: string): Said[] =>
  text.split('`').map((piece, at): Said => (at % 2 === 1 ? ['code', piece] : piece));
