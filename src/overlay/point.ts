import { piiIn } from '../core/capture';
import { leadsTo, plainWords } from '../core/events/press';
import { candidatesFor, lastsWords, type Candidate } from '../core/events/pointed';
import { looksGenerated } from '../core/events/selector';
import { pressable, pressedIn, pressOf } from '../snippet/press-of';
import { nameOf } from '../snippet/natives';
import { openPanel, type Said } from './panel';
import { allOf, placeIn, rootsIn, type Root } from './roots';

/** Put in front by the edge: what the tab proves itself by, the door it says things at, and the live release's script. */
declare const AVRIX_POINT: { token: string; door: string; live: string };

/*
 * In a tab in which somebody points at what is to count: what can be pressed or sent is outlined, a press chooses it and
 * does nothing else. No engine runs here, so nothing of it is counted.
 */

const named = 'avx_trial';
const { token, door, live } = AVRIX_POINT;

const outlines = `
a[href],area[href],button,summary,[role=button],[role=link],input[type=submit],input[type=button],input[type=image] {
  outline: 2px dashed #B98310 !important; outline-offset: 2px !important; cursor: crosshair !important; }
a[href]:hover,button:hover,summary:hover,[role=button]:hover,[role=link]:hover,input[type=submit]:hover,
a[href]:focus,button:focus,summary:focus,[role=button]:focus,[role=link]:focus,input[type=submit]:focus {
  outline: 3px solid #B5164C !important; }
form { outline: 1px dotted #50645D !important; outline-offset: 6px !important; }
`;

async function say(what: object): Promise<string> {
  const answer = await fetch(door, {
    method: 'POST',
    headers: { 'content-type': 'text/plain' },
    body: JSON.stringify(what),
  });
  if (!answer.ok) throw new Error(String(answer.status));
  return ((await answer.json()) as { tab: string }).tab;
}

/** The tab begins by the link, once, or goes on by what it was given then. @returns what it proves itself by */
async function begin(): Promise<string> {
  if (sessionStorage.getItem(named) === `p${token}`) return say({ says: 'go on', tab: token });
  const tab = await say({ says: 'begin', token });
  sessionStorage.setItem(named, `p${tab}`);
  const left = new URL(location.href);
  left.searchParams.delete('avx_try');
  history.replaceState(history.state, '', left.href);
  return tab;
}

/** The page works as for every visitor again. */
function end(): void {
  if (sessionStorage.getItem(named)?.startsWith('p')) sessionStorage.removeItem(named);
}

function loadLive(): void {
  const script = document.createElement('script');
  script.src = live;
  document.head.append(script);
}

const wayWords: Record<Candidate['kind'], string> = {
  sends: 'sends the form',
  presses: 'presses the element',
  presses_words: 'presses what reads',
  leaves_for: 'follows a link to',
};

function countHere({ kind, text }: Candidate): number {
  if (kind === 'presses') return allOf(text).length;
  if (kind === 'sends') return allOf('form').filter((form) => nameOf(form as HTMLFormElement) === text).length;
  return allOf(pressable).filter((element) => {
    const press = pressOf(element, piiIn);
    return kind === 'presses_words' ? plainWords(press.text) === plainWords(text) : leadsTo(press.link, text);
  }).length;
}

function point(tab: string): void {
  const panel = openPanel('Point at what is to count');
  const sheets = new Map<Root, CSSStyleSheet>();
  const heard = new WeakSet<Document>();
  let isWalking = false;

  const outline = (isOn: boolean) => {
    for (const root of rootsIn(document)) {
      const { defaultView } = root.ownerDocument ?? (root as Document);
      if (!defaultView) continue;
      let sheet = sheets.get(root);
      if (!sheet) {
        // A sheet belongs to the document that made it.
        sheet = new (defaultView as unknown as typeof globalThis).CSSStyleSheet();
        sheets.set(root, sheet);
        root.adoptedStyleSheets = [...root.adoptedStyleSheets, sheet];
      }
      sheet.replaceSync(isOn ? outlines : '');
      if ('defaultView' in root && !heard.has(root)) {
        heard.add(root);
        for (const kind of ['click', 'auxclick', 'submit']) root.addEventListener(kind, onPress, true);
      }
    }
  };

  function onPress(event: Event): void {
    const path = event.composedPath();
    if (isWalking || path.includes(panel.host)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (event.type === 'submit') return;
    const pressed = pressedIn(path);
    const form = path.find((node) => (node as Element).tagName === 'FORM') as HTMLFormElement | undefined;
    const sends = pressed ? isSubmit(pressed) && form : form;
    if (pressed || sends) void choose(pressed ?? null, sends ? nameOf(sends) : '');
  }

  async function choose(element: Element | null, form: string): Promise<void> {
    const candidates = candidatesFor(
      {
        press: element && pressOf(element, piiIn),
        form,
        path: element ? placeIn(element, (id) => !looksGenerated(id)) : '',
      },
      location.host,
    ).map((one) => ({ ...one, here: countHere(one) }));
    if (candidates.length === 0)
      return show('This form has no name.', 'Give it a name or an ID in the page, or point at its button.');
    try {
      await say({ says: 'chosen', tab, pointed: { page: location.href.slice(0, 4000), candidates } });
    } catch {
      return show('It could not be taken.', 'The time for pointing may be over. Begin again in Avrix.');
    }
    end();
    outline(false);
    isWalking = true;
    panel.show(
      ['h2', 'Chosen. Go back to Avrix.'],
      [
        'ol',
        ...candidates.map(({ kind, text, lasts, here }): Said => [
          'li',
          `${wayWords[kind]} `,
          ['code', text],
          ['small', `${here === 1 ? 'the only one' : `${here} of them`} on this page · ${lastsWords[lasts]}`],
        ]),
      ],
    );
    panel
      .button('Close this tab', () => {
        window.close();
        panel.close();
      })
      .focus();
  }

  function show(title: string, under: string): void {
    const foreign = isWalking ? [] : foreignFrames();
    panel.show(
      ['h2', title],
      ['p', under],
      ...foreign.map((host): Said => [
        'p',
        ['small', `In the frame of ${host} nothing can be pointed at: browsers show it to nobody but its own website.`],
      ]),
    );
    panel.button(isWalking ? 'Point again' : 'Go to another page', () => {
      isWalking = !isWalking;
      outline(!isWalking);
      if (isWalking) show('Links work again.', 'Go to the page where it is, then point again.');
      else begun();
    });
    panel.button('Other corner', () => panel.move());
    panel.button('Leave', () => {
      void say({ says: 'leave', tab }).catch(() => undefined);
      end();
      outline(false);
      isWalking = true;
      panel.close();
    });
  }

  const begun = () =>
    show('Point at what is to count.', 'Press a link, a button or a form; Tab and Enter work too. Nothing is sent.');
  outline(true);
  begun();
  // What the page draws later can be pointed at too.
  new MutationObserver(() => !isWalking && outline(true)).observe(document, { childList: true, subtree: true });
}

/** Hosts of the frames of other origins, each once. */
const foreignFrames = (): string[] => [
  ...new Set(
    allOf('iframe[src]').flatMap((frame) => {
      const { src } = frame as HTMLIFrameElement;
      if (!/^https?:/.test(src)) return [];
      const { origin, host } = new URL(src);
      return origin === location.origin ? [] : host;
    }),
  ),
];

const isSubmit = (element: Element): boolean =>
  (element.tagName === 'BUTTON' && ((element as HTMLButtonElement).type || 'submit') === 'submit') ||
  (element.tagName === 'INPUT' && /^(submit|image)$/.test((element as HTMLInputElement).type));

begin().then(
  (tab) => (document.body ? point(tab) : addEventListener('DOMContentLoaded', () => point(tab))),
  () => {
    end();
    loadLive();
  },
);
