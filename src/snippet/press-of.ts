import type { Press } from '../core/events/press';
import { lookUp } from './natives';

/** What can be pressed; never a field. */
export const pressable =
  'a[href],area[href],button,summary,[role=button],[role=link],input[type=submit],input[type=button],input[type=image]';
const mostData = 8;

/** What was pressed among the nodes that a press went through; in a closed shadow root the path ends at its host. */
export const pressedIn = (path: EventTarget[]): Element | undefined =>
  path.find((node) => (node as Node).nodeType === 1 && lookUp(node as Element, 'matches', pressable)) as
    Element | undefined;

/** What was pressed, as it may be told: without what says who somebody is. */
export function pressOf(element: Element, isPersonal: (text: string) => unknown): Press {
  const attribute = (name: string) => lookUp(element, 'getAttribute', name) ?? '';
  const free = (text: string, most: number) => (isPersonal(text) ? '' : text.slice(0, most));
  const label = attribute('aria-label') || attribute('title') || attribute('value');
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
}
