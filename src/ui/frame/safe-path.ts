/** A path within Avrix to go on to; anything that could lead elsewhere becomes the start page. */
export function safePath(path: unknown): string {
  return typeof path === 'string' && /^\/(?![/\\])[^\\]*$/.test(path) ? path : '/';
}
