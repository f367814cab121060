import type { Doing, RoutineMeans } from '../../../core/leads/routines/routine';
import type { ActState, RoutineState, RunState } from '../../../core/leads/routines/view';
import { bytes, defineTable, json, text, time, uuid, whole, type RowOf } from '../../db/columns';

/** What follows when leads meet a condition. */
export const routines = defineTable('routines', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  means: json<RoutineMeans>(),
  /** `braked`: more leads came at once than are taken without being asked. */
  state: text<RoutineState>(),
  startedAt: time().nullable(),
  /** Until when it takes as many as there are. */
  unbrakedUntil: time().nullable(),
  madeAt: time(),
  changedAt: time(),
});
export type RoutineRow = RowOf<typeof routines>;

/** Leads that a routine took, and those that it passed over as it began (`passed`). */
export const routineRuns = defineTable('routine_runs', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  routineId: uuid(),
  /** Of what it takes each once: the enquiry, or the person. */
  subjectId: uuid(),
  enquiryId: uuid(),
  state: text<RunState>(),
  /** The step that was done last, by its own name, null before the first; and how many were. */
  lastStep: uuid().nullable(),
  stepsDone: whole(),
  /** When the last step was done, from which on the next one is waited for. */
  lastAt: time(),
  dueAt: time().nullable(),
  beganAt: time(),
  endedAt: time().nullable(),
  why: text(),
});
export type RunRow = RowOf<typeof routineRuns>;

/** What a routine did with a lead: one row for each step, whose ID is worked out from both. */
export const routineActs = defineTable('routine_acts', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  runId: uuid(),
  routineId: uuid(),
  enquiryId: uuid(),
  stepId: uuid(),
  does: text<Doing>(),
  /** `begun`: it may have happened; `unsure`: nobody knows whether it has. */
  state: text<ActState>(),
  at: time(),
  /** When it was first to be done. */
  since: time(),
  /** What it was, in words. */
  words: text(),
  answer: text(),
  mailId: uuid().nullable(),
  /** The address that it went to, hashed; '' for none. */
  mailHash: text(),
  /** The email as it was sent, encrypted (AES-256-GCM). */
  sent: bytes().nullable(),
});
export type ActRow = RowOf<typeof routineActs>;
