import { UAParser } from 'ua-parser-js';

/** Most user agents come again and again; reading one takes longer than reading a hit. */
const known = new Map<string, string>();
const longest = 20;

/** The engine of the browser that a user agent names, such as WebKit: what decides how long cookies last. '' where none is named. */
export function browserEngineOf(agent: string): string {
  const before = known.get(agent);
  if (before !== undefined) return before;
  if (known.size >= 5000) known.clear();
  const engine = (new UAParser(agent).getEngine().name ?? '').slice(0, longest);
  known.set(agent, engine);
  return engine;
}
