/** What a page of the website shows of Avrix: a corner of its own, out of reach of the page's styles. */
const styles = `
:host { all: initial; position: fixed; inset: auto 12px 12px auto; z-index: 2147483647; }
:host([data-left]) { inset: auto auto 12px 12px; }
* { box-sizing: border-box; }
section { display: flex; flex-direction: column; width: min(340px, calc(100vw - 24px)); max-height: min(70vh, 560px);
  padding: 12px 14px; border-radius: 6px; border: 1px solid #E8B53C; background: #10231F; color: #ECF0ED;
  font: 14px/1.45 system-ui, sans-serif; }
div { overflow: auto; min-height: 0; }
footer { flex: none; padding-top: 6px; }
h2 { margin: 0 0 4px; font-size: 15px; }
p { margin: 0 0 8px; }
ol, ul { margin: 0 0 8px; padding: 0; list-style: none; }
li { padding: 5px 0; border-top: 1px solid #2c4a43; }
li:first-child { border-top: 0; }
code { font: 12px/1.4 ui-monospace, monospace; overflow-wrap: anywhere; color: #E8B53C; }
small { display: block; color: #B7C6C0; font-size: 12px; }
button { font: inherit; color: inherit; background: transparent; border: 1px solid #ECF0ED; border-radius: 5px;
  padding: 3px 10px; margin: 2px 6px 2px 0; cursor: pointer; }
button:focus-visible { outline: 2px solid #E8B53C; outline-offset: 2px; }
[hidden] { display: none; }
`;

/** On what Avrix puts into a page. */
export const ours = 'data-avrix-shown';

/** Something that a panel says: a text, or an element with what is in it. */
export type Said = string | [tag: string, ...Said[]];

/** Makes elements of what is said; text stays text, whatever a page has written. */
export function elementOf(said: Said): Node {
  if (typeof said === 'string') return document.createTextNode(said);
  const [tag, ...inner] = said;
  const element = document.createElement(tag as string);
  element.append(...inner.map(elementOf));
  return element;
}

/** Opens a panel on the page. @param label what those hear who do not see it */
export function openPanel(label: string) {
  const host = document.createElement('div');
  host.setAttribute(ours, '');
  const root = host.attachShadow({ mode: 'open' });
  // Sheets that are made by a script are let in by every content security policy.
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(styles);
  root.adoptedStyleSheets = [sheet];
  const section = document.createElement('section');
  section.setAttribute('role', 'dialog');
  section.setAttribute('aria-label', label);
  section.setAttribute('aria-live', 'polite');
  const [body, footer] = [document.createElement('div'), document.createElement('footer')];
  section.append(body, footer);
  root.append(section);
  const place = () => document.documentElement.append(host);
  place();
  // Some applications draw their whole page anew.
  const watch = new MutationObserver(() => !host.isConnected && place());
  watch.observe(document.documentElement, { childList: true });
  const presses = new Map<EventTarget, () => void>();
  /** What is pressed here is no press of the page: neither its own scripts nor the engine hear of it. */
  const onPress = (event: Event) => {
    const path = event.composedPath();
    if (!path.includes(host)) return;
    event.stopImmediatePropagation();
    if (event.type === 'click') path.forEach((node) => presses.get(node)?.());
  };
  const kinds = ['click', 'auxclick'];
  kinds.forEach((kind) => addEventListener(kind, onPress, true));
  return {
    host,
    /** Shows something in place of what was there. */
    show(...said: Said[]) {
      body.replaceChildren(...said.map(elementOf));
      footer.replaceChildren();
      presses.clear();
    },
    /** Goes to the other side, where it hides what somebody wants to see. */
    move() {
      host.toggleAttribute('data-left');
    },
    /** Adds a button. */
    button(words: string, press: () => void): HTMLButtonElement {
      const button = document.createElement('button');
      button.textContent = words;
      presses.set(button, press);
      footer.append(button);
      return button;
    },
    close() {
      watch.disconnect();
      kinds.forEach((kind) => removeEventListener(kind, onPress, true));
      host.remove();
    },
  };
}
