import { ours } from './panel';

/** A document that can be looked at from here, or an open shadow root in one. */
export type Root = Document | ShadowRoot;

/** A document with its frames of the same origin and all open shadow roots. */
export function rootsIn(root: Root): Root[] {
  const inner = [...root.querySelectorAll(`*:not([${ours}])`)].flatMap((element): Root[] => {
    const own = element.shadowRoot;
    const frame = element.tagName === 'IFRAME' ? (element as HTMLIFrameElement).contentDocument : null;
    return [...(own ? rootsIn(own) : []), ...(frame ? rootsIn(frame) : [])];
  });
  return [root, ...inner];
}

/** Every element that a selector meets, wherever it can be looked at. */
export const allOf = (selector: string): Element[] => {
  try {
    return rootsIn(document).flatMap((root) => [...root.querySelectorAll(selector)]);
  } catch {
    return [];
  }
};

/** An element's place in its page: from the next thing with a lasting name, else from the top. */
export function placeIn(element: Element, isLasting: (id: string) => boolean): string {
  const steps: string[] = [];
  for (let at: Element | null = element; at && at.tagName !== 'HTML'; at = at.parentElement) {
    if (at !== element && at.id && isLasting(at.id)) {
      steps.unshift(`#${CSS.escape(at.id)}`);
      break;
    }
    const alike = [...(at.parentElement?.children ?? [])].filter(({ tagName }) => tagName === at!.tagName);
    const nth = alike.length > 1 ? `:nth-of-type(${alike.indexOf(at) + 1})` : '';
    steps.unshift(at.localName + nth);
  }
  return steps.join(' > ').slice(0, 300);
}
