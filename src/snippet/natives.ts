/*
 * A form's own properties may be hidden behind fields of their names, and programs that draw pages put properties of
 * their own before a field's: elements are read and written by the browser's own ways.
 */
type Lookups = 'closest' | 'getAttribute' | 'matches' | 'querySelectorAll';

const { Element, HTMLFormElement, HTMLInputElement } = globalThis as Partial<typeof globalThis>;
const nativeOf = (kind: { prototype: object } | undefined, name: string) =>
  Object.getOwnPropertyDescriptor(kind?.prototype ?? {}, name) ?? {};
// Marked, so that parts that need neither do not carry them.
const elements = /* @__PURE__ */ nativeOf(HTMLFormElement, 'elements');
const value = /* @__PURE__ */ nativeOf(HTMLInputElement, 'value');

export const lookUp = <Name extends Lookups>(element: Element, name: Name, what: string) =>
  ((Element?.prototype ?? element)[name] as (what: string) => ReturnType<Element[Name]>).call(element, what);

export const fieldsOf = (form: HTMLFormElement): HTMLInputElement[] => [
  ...((elements.get?.call(form) ?? form.elements) as HTMLInputElement[]),
];

export const nameOf = (form: HTMLFormElement): string =>
  lookUp(form, 'getAttribute', 'name') ?? lookUp(form, 'getAttribute', 'id') ?? '';

/** Puts a value into a field. Programs that draw forms hear of it by these events, and only where they did not set it. */
export function putInto(field: HTMLInputElement, text: string): void {
  if (field.value === text) return;
  if (value.set) value.set.call(field, text);
  else field.value = text;
  for (const name of ['input', 'change']) field.dispatchEvent(new Event(name, { bubbles: true }));
}
