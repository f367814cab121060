import { isbot } from 'isbot';

/** Most user agents come again and again; judging one takes longer than reading a hit. */
const judged = new Map<string, boolean>();
export function isBot(agent: string): boolean {
  const known = judged.get(agent);
  if (known !== undefined) return known;
  if (judged.size >= 5000) judged.clear();
  const bot = isbot(agent);
  judged.set(agent, bot);
  return bot;
}
