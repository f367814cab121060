import type { MakePart } from '../part';
import { pressedIn, pressOf } from '../press-of';

/** Presses that one page tells; more are no person's. */
const mostTold = 60;

/** Tells which links and buttons are pressed, and lets events know: by mouse, also its middle button, and by keyboard. */
export const part: MakePart = ({ setup, listen }) => ({
  work({ onRoot, onEnd, looksItself, hearing, isPersonal, tell }) {
    const isRecorded = setup.events!.presses;
    let told = 0;

    const look = (event: Event) => {
      const pressed = pressedIn(event.composedPath());
      if (!pressed) return;
      const press = pressOf(pressed, isPersonal);
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
