import { lookUp } from './natives';
import type { Root } from './part';
import type { Tools } from './tools';

/** On the window of a page that runs the snippet itself. */
export const runsHere = Symbol.for('avrix');

/** How long (ms) one piece of looking may take; a page's own work waits no longer than that. */
const budget = 5;

/** True for a frame's document whose own snippet tells of it. */
export const looksItself = (root: Root): boolean => {
  const view = (root.ownerDocument ?? (root as Document)).defaultView as unknown as Record<symbol, boolean> | null;
  return Boolean(view && (view as unknown) !== globalThis && view[runsHere]);
};

/**
 * Looks at what stands in the page and at what comes into it, in its frames of the same origin and its open shadow
 * roots; of closed ones and of frames of other origins nothing can be seen. Only what came or changed is looked at, once
 * the page has nothing else to do, and no longer at a time than `budget`.
 */
export function lookAround(tools: Tools) {
  const looks: [selector: string, look: (element: Element) => void][] = [];
  const whenLooked: (() => void)[] = [];
  const whenRoot: ((root: Root) => void)[] = [];
  const ends: (() => void)[] = [];
  const roots: Root[] = [];
  /** Attributes whose change makes an element another. */
  const attributes: string[] = [];
  const Observer = MutationObserver;
  const attended = new WeakSet<Root>();
  /** What is to be looked at, with everything in it. */
  const pending = new Set<Root | Element>();
  let work: Iterator<unknown> | null = null;
  let waits = false;
  let ended = false;

  function soon(tree: Root | Element) {
    pending.add(tree);
    waitForIdle();
  }

  function waitForIdle() {
    if (waits || ended) return;
    waits = true;
    tools.idle(goOn);
  }

  function goOn() {
    waits = false;
    if (ended) return;
    const until = performance.now() + budget;
    work ??= lookAtPending();
    do {
      if (work.next().done) {
        work = null;
        return;
      }
    } while (performance.now() < until);
    waitForIdle();
  }

  function* lookAtPending() {
    for (const tree of pending) {
      pending.delete(tree);
      if (looksItself(tree as Root)) continue;
      const isElement = 'tagName' in tree;
      if (isElement) lookAt(tree);
      for (const element of isElement ? lookUp(tree, 'querySelectorAll', '*') : tree.querySelectorAll('*')) {
        lookAt(element);
        yield;
      }
    }
    whenLooked.forEach((one) => one());
  }

  function lookAt(element: Element) {
    const { shadowRoot } = element;
    if (shadowRoot?.host === element) attend(shadowRoot);
    attendFrame(element);
    for (const [selector, look] of looks)
      try {
        if (lookUp(element, 'matches', selector)) look(element);
      } catch {
        // What cannot be read keeps nothing else from being looked at.
      }
  }

  function attendFrame(frame: EventTarget | null) {
    const { tagName, contentDocument } = frame as HTMLIFrameElement;
    if (tagName === 'IFRAME' && contentDocument) attend(contentDocument);
  }

  /** Hears of what changes under a root, and looks at what stands there. */
  function attend(root: Root) {
    if (attended.has(root)) return;
    attended.add(root);
    roots.push(root);
    const observer = new Observer(onChanges);
    const what: MutationObserverInit = { childList: true, subtree: true, attributeFilter: attributes };
    observer.observe(root, { __proto__: null, ...what } as MutationObserverInit);
    ends.push(
      () => observer.disconnect(),
      // A frame has its document only once it is loaded; whatever else loads has none.
      tools.listen(root, 'load', ({ target }) => attendFrame(target)),
    );
    whenRoot.forEach((one) => one(root));
    soon(root);
  }

  function onChanges(records: MutationRecord[]) {
    for (const { type, target, addedNodes } of records) {
      if (type === 'attributes') soon(target as Element);
      // A form whose fields change is another.
      const form = 'closest' in target && lookUp(target as Element, 'closest', 'form');
      if (form) soon(form);
      for (const node of addedNodes) if ('closest' in node) soon(node as Element);
    }
  }

  // A root may come to an element that was looked at before.
  const prototype = (globalThis as Partial<typeof globalThis>).Element?.prototype;
  if (prototype) {
    const { attachShadow } = prototype;
    prototype.attachShadow = function (init) {
      const root = attachShadow.call(this, init);
      soon(this);
      return root;
    };
  }

  return {
    attend,
    watch(selector: string, look: (element: Element) => void, ...changing: string[]) {
      looks.push([selector, look]);
      attributes.push(...changing);
    },
    onLooked: (one: () => void) => void whenLooked.push(one),
    onRoot(one: (root: Root) => void) {
      whenRoot.push(one);
      roots.forEach(one);
    },
    /** Looks at everything again. */
    lookAgain: () => roots.forEach((root) => soon(root)),
    onEnd: (one: () => void) => void ends.push(one),
    end() {
      ended = true;
      pending.clear();
      ends.forEach((one) => one());
    },
  };
}
