import type { Press } from '../../core/events/press';
import { lookUp } from '../natives';
import type { MakePart } from '../part';

/** What can be pressed; never a field. */
const pressable =
  'a[href],area[href],button,summary,[role=button],[role=link],input[type=submit],input[type=button],input[type=image]';
/** Presses that one page tells; more are no person's. */
const mostTold = 60;
const mostData = 8;

/** Tells which links and buttons are pressed, and lets events know: by mouse, also its middle button, and by keyboard. */
export const part: MakePart = ({ setup, listen }) => ({
  work({ onRoot, onEnd, looksItself, hearing, isPersonal, tell }) {
    const isRecorded = setup.events!.presses;
    let told = 0;

    /** What was pressed, as it may be told: without what says who somebody is. */
    const pressOf = (element: Element): Press => {
      const attribute = (name: string) => lookUp(element, 'getAttribute', name) ?? '';
      const free = (text: string, most: number) => (isPersonal(text) ? '' : text.slice(0, most));
      const label = attribute('aria-label') || attribute('title') || lookUp(element, 'getAttribute', 'value') || '';
      const words = (element.textContent ?? '').replace(/\s+/g, ' ').trim();
      const { href } = element as HTMLAnchorElement;
      const link = typeof href === 'string' ? href.replace(/[?#].*/s, '') : '';
      return {
        tag: element.localName.slice(0, 20),
        id: free(attribute('id'), 80),
        name: free(attribute('name'), 80),
        link: link.startsWith('mailto:') ? 'mailto:' : link.slice(0, 300),
        text: free(words || label, 60),
        data: [...element.attributes]
          .filter(({ name }) => name.startsWith('data-'))
          .slice(0, mostData)
          .map(({ name, value }) => [name.slice(5, 45), free(value, 60)]),
      };
    };

    const look = (event: Event) => {
      // In a closed shadow root the path ends at its host.
      const pressed = event
        .composedPath()
        .find((node) => (node as Node).nodeType === 1 && lookUp(node as Element, 'matches', pressable)) as
        Element | undefined;
      if (!pressed) return;
      const press = pressOf(pressed);
      if (isRecorded && told++ < mostTold) tell({ kind: 'pressed', press });
      hearing.pressed.forEach((hear) => hear(press, pressed));
    };
    onRoot((root) => {
      // What is pressed in a shadow root is heard of at its document.
      if ('host' in root) return;
      const hear = (event: Event) => !looksItself(root) && look(event);
      onEnd(listen(root, 'click', hear));
      // The middle button opens a link beside this page.
      onEnd(listen(root, 'auxclick', (event) => (event as MouseEvent).button === 1 && hear(event)));
    });
  },
});
