/** A body as JSON; undefined where it is none. */
export function readJson(body: string): unknown {
  try {
    return JSON.parse(body);
  } catch {
    return undefined;
  }
}
