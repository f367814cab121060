import { createHmac } from 'node:crypto';
import { join } from 'node:path';
import { z } from 'zod';
import { makeSeason, type Season } from './season';
import { openStore, type Store } from './store';

const environmentSchema = z.object({
  STANDINS_PORT: z.coerce.number().int().min(1).max(65530),
  STANDINS_DATA: z.string().min(1),
  /** Keys and webhook secrets are made from it, so that both sides of an account know them. */
  STANDINS_SECRET: z.string().min(16),
  /** The line that Larkmoor's developer pasted: the address of a script, '' for none. */
  STANDINS_SCRIPT: z.string().default(''),
  /** Where Oakledger sends its webhooks, '' for nowhere. */
  STANDINS_HOOK: z.string().default(''),
  /** The same line for Larkmoor's second website. */
  STANDINS_FLEET_SCRIPT: z.string().default(''),
  /** Where Bellhour tells of bookings, '' for nowhere. */
  STANDINS_BOOKED: z.string().default(''),
  /** Where Larkmoor's switchboard tells of calls, '' for nowhere. */
  STANDINS_CALLS: z.string().default(''),
  /** Where Brindlepost passes replies on to, '' for nowhere. */
  STANDINS_REPLIES: z.string().default(''),
  /** `no` for a world in which nothing goes wrong. */
  STANDINS_FAULTS: z.enum(['yes', 'no']).default('yes'),
  /** The last day of what is loaded: names and days of the scenario lie around it. */
  STANDINS_LAST_DAY: z.iso.date().default('2027-02-15'),
  STANDINS_TEST_SWITCH: z.string().min(16).optional(),
});

/** What the stand-ins are told about the world around them. */
export interface Surroundings {
  ports: Record<StandinName, number>;
  /** Where Brindlepost takes emails, beside its page. */
  smtpPort: number;
  script: string;
  fleetScript: string;
  booked: string;
  hook: string;
  calls: string;
  replies: string;
  faults: boolean;
  season: Season;
  testSwitch: string | null;
  /** True while a replay runs: call limits and waits are off. */
  replaying: boolean;
  /** A key or secret by its name, the same at every start. */
  key(name: string): string;
  storeOf(name: StandinName): Store;
  originOf(name: StandinName): string;
}

export const standinNames = [
  ...(['larkmoor', 'quillsearch', 'oakledger', 'larkmoor-fleet', 'bellhour', 'wrenwick'] as const),
  ...(['plain-ads', 'plain-crm', 'meterhall', 'tessaloop', 'brindlepost'] as const),
] as const;
export type StandinName = (typeof standinNames)[number];

/** Reads the environment. @throws ZodError naming each variable that is wrong */
export function readSurroundings(environment: NodeJS.ProcessEnv): Surroundings {
  const env = environmentSchema.parse(environment);
  const ports = Object.fromEntries(standinNames.map((name, i) => [name, env.STANDINS_PORT + i]));
  return {
    ports: ports as Record<StandinName, number>,
    smtpPort: env.STANDINS_PORT + standinNames.length,
    script: env.STANDINS_SCRIPT,
    fleetScript: env.STANDINS_FLEET_SCRIPT,
    booked: env.STANDINS_BOOKED,
    hook: env.STANDINS_HOOK,
    calls: env.STANDINS_CALLS,
    replies: env.STANDINS_REPLIES,
    faults: env.STANDINS_FAULTS === 'yes',
    season: makeSeason(env.STANDINS_LAST_DAY),
    testSwitch: env.STANDINS_TEST_SWITCH ?? null,
    replaying: false,
    key: (name) => createHmac('sha256', env.STANDINS_SECRET).update(name).digest('hex').slice(0, 40),
    storeOf: (name) => openStore(join(env.STANDINS_DATA, `${name}.jsonl`)),
    originOf: (name) => `http://${name}.localhost:${ports[name]}`,
  };
}
