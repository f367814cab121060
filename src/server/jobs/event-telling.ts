import type { makeTellEvents } from '../events/tell';
import { defineJob } from './job';

/** Tells destinations the events that are due; each account is a lane. */
export const eventTellingJob = (tell: ReturnType<typeof makeTellEvents>) =>
  defineJob({ kind: 'event_telling', claim: 500, lanes: 4, run: tell });
