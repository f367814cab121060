/**
 * The value that a JSON Pointer (RFC 6901) names in a JSON document, such as `/order/number`; undefined where it leads
 * nowhere. '' names the whole document.
 */
export function readPointer(document: unknown, pointer: string): unknown {
  return pointer
    .split('/')
    .slice(1)
    .reduce<unknown>((within, token) => {
      const key = token.replace(/~1/g, '/').replace(/~0/g, '~');
      return typeof within === 'object' && within !== null && Object.hasOwn(within, key)
        ? (within as Record<string, unknown>)[key]
        : undefined;
    }, document);
}

/** The last part of a pointer: what the value is called there. */
export const pointerName = (pointer: string): string =>
  pointer
    .slice(pointer.lastIndexOf('/') + 1)
    .replace(/~1/g, '/')
    .replace(/~0/g, '~');

/** A document with a value put at a pointer (RFC 6901); what is missing on the way is made, an array where a number names it. */
export function writePointer(document: unknown, pointer: string, value: unknown): unknown {
  const [, token, ...rest] = pointer.split('/');
  if (token === undefined) return value;
  const key = pointerName(`/${token}`);
  const within = writePointer(readPointer(document, `/${token}`) ?? {}, rest.map((one) => `/${one}`).join(''), value);
  const isList = Array.isArray(document) || (isEmptyObject(document) && /^(0|[1-9]\d?)$/.test(key));
  if (!isList) return { ...(document as object), [key]: within };
  const list: unknown[] = Array.isArray(document) ? [...(document as unknown[])] : [];
  list[Number(key)] = within;
  return list;
}

const isEmptyObject = (document: unknown): boolean =>
  typeof document === 'object' && document !== null && Object.keys(document).length === 0;

/** A name as a part of a pointer. */
export const escapeToken = (name: string): string => name.replace(/~/g, '~0').replace(/\//g, '~1');

/** What is at a pointer, as a text: a text, a number, or yes or no; '' for anything else, and where the pointer is ''. */
export function textAt(document: unknown, pointer: string): string {
  const value = pointer === '' ? undefined : readPointer(document, pointer);
  return typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
    ? String(value).trim()
    : '';
}
