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
