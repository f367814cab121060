import { defaultTreeAdapter as tree, html as names, parse, type DefaultTreeAdapterTypes } from 'parse5';
import type { Press } from '../events/press';

type Element = DefaultTreeAdapterTypes.Element;
type Node = DefaultTreeAdapterTypes.Node;

/** Something that the page tells another script: by which function or attribute, under which name. */
export interface FoundEvent {
  /** The function that is called with the name, or the attribute that holds it. */
  by: string;
  name: string;
  /** What is pressed for it; null where a form is sent, or the page itself says it. */
  press: Press | null;
  /** The form that is sent for it, by its name; '' where none is. */
  form: string;
}

/** What a page does already, as far as its source says it: a first look at what is to be taken over. */
export interface OnPage {
  /** Hosts that scripts of others come from, each once. */
  scripts: string[];
  events: FoundEvent[];
  hiddenFields: { form: string; field: string }[];
}

/** Of each at most; a page with more repeats itself. */
const most = 40;
/** Functions that are called with a text and tell nobody of anything. */
const idle =
  /^(alert|confirm|print|open|require|import|setTimeout|setInterval|parseInt|Number|String)$|^(window\.open|location|history|document|console|event|this|e)\b/;
/** Characters of one element's text. */
const longestText = 200_000;
/** A function called with a text first: `tally('booking')`. */
const call = /([A-Za-z_$][\w$.]*)\s*\(\s*(['"])([^'"\n]{1,80})\2/g;
/** What a page says by the browser's own means. */
const told = /['"]avrix:tell['"]\s*,\s*\{\s*detail\s*:\s*\{[^}]*?\bevent\s*:\s*['"]([^'"\n]{1,80})['"]/g;
/** Attributes by which pages name what scripts of others are to hear of. */
const naming = /^data-(?:[\w-]+-)?(?:event|track|goal)(?:-name)?$/;

/**
 * Looks over a page's source without running it: scripts of others, what handlers and attributes tell them, and hidden
 * fields of forms.
 * @param own whether a host is the page's own or the snippet's
 */
export function lookOver(source: string, page: string, own: (host: string) => boolean): OnPage {
  const scripts = new Set<string>();
  const events: FoundEvent[] = [];
  const hiddenFields: OnPage['hiddenFields'] = [];
  const add = (by: string, name: string, press: Press | null, form: string) => {
    if (!events.some((one) => one.by === by && one.name === name)) events.push({ by, name, press, form });
  };

  const look = (element: Element, form: Element | null): void => {
    const attributes = new Map(element.attrs.map(({ name, value }) => [name, value]));
    const { tagName } = element;
    if (tagName === 'script') {
      const src = attributes.get('src');
      const host = src && URL.canParse(src, page) ? new URL(src, page).host : '';
      if (host && !own(host)) scripts.add(host);
      for (const [, name] of textOf(element).matchAll(told)) add('avrix:tell', name!, null, '');
    }
    if (tagName === 'input' && form && attributes.get('type')?.toLowerCase() === 'hidden' && attributes.get('name'))
      hiddenFields.push({ form: nameOf(form), field: attributes.get('name')! });
    const isForm = tagName === 'form';
    const press =
      /^(a|area|button)$/.test(tagName) || attributes.get('type') === 'submit' ? pressOf(element, page) : null;
    for (const [attribute, value] of attributes) {
      if (/^on(click|mousedown|pointerdown|submit)$/.test(attribute))
        for (const [, by, , name] of value.matchAll(call))
          if (!idle.test(by!)) add(by!, name!, isForm ? null : press, isForm ? nameOf(element) : '');
      if (naming.test(attribute) && value)
        add(attribute, value.slice(0, 80), isForm ? null : press, isForm ? nameOf(element) : '');
    }
  };
  // A page may be nested deeper than calls may be.
  const open: [node: Node, form: Element | null][] = [[parse(source), null]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [node, form] = next;
    const isElement = tree.isElementNode(node);
    if (isElement) look(node, form);
    const inside = isElement && node.tagName === names.TAG_NAMES.FORM ? node : form;
    if ('childNodes' in node) for (const child of node.childNodes.toReversed()) open.push([child, inside]);
  }
  return {
    scripts: [...scripts].slice(0, most),
    events: events.slice(0, most),
    hiddenFields: hiddenFields.slice(0, most),
  };
}

const valueOf = ({ attrs }: Element, name: string): string => attrs.find((one) => one.name === name)?.value ?? '';
const nameOf = (form: Element): string => valueOf(form, 'name') || valueOf(form, 'id');

/** The text in a node, as much of it as is looked at. */
function textOf(node: Node): string {
  let text = '';
  const open: Node[] = [node];
  for (let next = open.pop(); next && text.length < longestText; next = open.pop())
    if (tree.isTextNode(next)) text += next.value;
    else if ('childNodes' in next) open.push(...next.childNodes.toReversed());
  return text;
}

/** A link or button as a press of it would be recorded. */
function pressOf(element: Element, page: string): Press {
  const href = valueOf(element, 'href');
  return {
    tag: element.tagName,
    id: valueOf(element, 'id').slice(0, 80),
    name: valueOf(element, 'name').slice(0, 80),
    link: (href && URL.canParse(href, page) ? new URL(href, page).href : '').split(/[?#]/)[0]!.slice(0, 300),
    text: textOf(element).replace(/\s+/g, ' ').trim().slice(0, 60),
    data: element.attrs
      .filter(({ name }) => name.startsWith('data-'))
      .slice(0, 8)
      .map(({ name, value }) => [name.slice(5, 45), value.slice(0, 60)]),
  };
}
