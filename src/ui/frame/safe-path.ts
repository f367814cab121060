/** Stands for Avrix's own origin where only paths are compared. */
const here = 'http://avrix.invalid';

/**
 * A path within Avrix to go on to; anything that could lead elsewhere becomes the start page. Browsers leave out control
 * characters before they read an address, and take `\\` for `/`, so a path with either is none.
 */
export function safePath(path: unknown): string {
  if (typeof path !== 'string' || !path.startsWith('/') || /[\u0000-\u001f\u007f\\]/.test(path)) return '/';
  return URL.canParse(path, here) && new URL(path, here).origin === here ? path : '/';
}
