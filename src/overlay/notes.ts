import { elementOf, ours, type Said } from './panel';

const styles = `
:host { all: initial; }
aside { position: fixed; z-index: 2147483646; max-width: min(260px, 60vw); padding: 3px 8px; border: 1px solid #E8B53C;
  border-radius: 4px; background: #10231F; color: #ECF0ED; font: 12px/1.4 system-ui, sans-serif; pointer-events: none; }
code { font: 11px/1.35 ui-monospace, monospace; color: #E8B53C; overflow-wrap: anywhere; }
p { margin: 0; }
`;

/** How often (ms) notes are put beside what they are about again, for pages move without saying so. */
const settleEvery = 400;

/** Where an element is in this window, also one in a frame of the same origin. */
function rectOf(element: Element): DOMRect {
  const own = element.getBoundingClientRect();
  const frame = element.ownerDocument.defaultView?.frameElement;
  if (!frame) return own;
  const around = rectOf(frame);
  return new DOMRect(own.x + around.x, own.y + around.y, own.width, own.height);
}

/** Notes that are pinned beside what they are about; they let every press through. */
export function makeNotes() {
  const host = document.createElement('div');
  host.setAttribute(ours, '');
  const root = host.attachShadow({ mode: 'open' });
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(styles);
  root.adoptedStyleSheets = [sheet];
  document.documentElement.append(host);
  const notes = new Map<Element, HTMLElement>();
  let isShown = true;

  const settle = () => {
    if (!host.isConnected) document.documentElement.append(host);
    for (const [element, note] of notes) {
      const { x, y, width, height, bottom } = rectOf(element);
      const isThere = isShown && element.isConnected && width > 0 && height > 0 && bottom > 0 && y < innerHeight;
      note.hidden = !isThere;
      note.style.setProperty('display', isThere ? 'block' : 'none');
      if (!isThere) continue;
      // Beside it where there is room, else beneath; never out of sight while what it is about is in sight.
      const [wide, high] = [note.offsetWidth, note.offsetHeight];
      const isRight = x + width + 8 + wide < innerWidth;
      const isLeft = !isRight && x - 8 - wide > 0;
      const left = isRight ? x + width + 8 : isLeft ? x - 8 - wide : x;
      const top = isRight || isLeft ? y : bottom + 4;
      note.style.setProperty('left', `${Math.max(4, left)}px`);
      note.style.setProperty('top', `${Math.max(4, Math.min(top, innerHeight - high - 4))}px`);
    }
  };
  const timer = setInterval(settle, settleEvery);
  addEventListener('scroll', settle, true);
  addEventListener('resize', settle);
  return {
    pin(element: Element, ...said: Said[]) {
      const note = notes.get(element) ?? document.createElement('aside');
      note.replaceChildren(...said.map(elementOf));
      if (!notes.has(element)) root.append(note);
      notes.set(element, note);
      settle();
    },
    show(shown: boolean) {
      isShown = shown;
      settle();
    },
    close() {
      clearInterval(timer);
      removeEventListener('scroll', settle, true);
      removeEventListener('resize', settle);
      host.remove();
    },
  };
}
