import type { Hono } from 'hono';
import type { StandinName } from './surroundings';

/** One simulated service: what it answers, and how to wait until it owes nobody anything. */
export interface Standin {
  name: StandinName;
  words: string;
  app: Hono;
  rest(): Promise<void>;
  /** What a replay may do at once, by name; see the test door in main.ts. */
  replays?: Record<string, (body: unknown) => object>;
}
