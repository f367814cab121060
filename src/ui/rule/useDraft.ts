/* eslint-disable no-await-in-loop -- tried again on top of what somebody else changed meanwhile */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { WrongField } from '../../core/errors';
import type { RuleChange, RuleName } from '../../core/rules';
import { sayDraftChanged } from './draft-changed';
import { ApiProblem, sendJson } from '../text/read';

/** A rule that somebody else changed since it was read: as it is now, and both sentences. */
export interface Conflict extends RuleName {
  theirs: unknown;
  /** null where they took it out. */
  theirSentence: string | null;
  sentence: string | null;
  by: string;
  /** When; null where it is live. */
  at: string | null;
}
interface Answer {
  warnings: { was: string; fix: string }[];
}

export const conflictsIn = (error: unknown): Conflict[] =>
  error instanceof ApiProblem ? ((error.more.conflicts as Conflict[] | undefined) ?? []) : [];

/** How often a change is made anew on top of what others wrote meanwhile. */
const mostTries = 4;

/** Puts changes into the business's draft and has the page read itself anew. */
export function useDraft(business: string) {
  const client = useQueryClient();
  const onSuccess = () => {
    sayDraftChanged();
    return client.invalidateQueries();
  };
  const send = (changes: RuleChange[]) => sendJson(`/api/b/${business}/draft`, { changes }) as Promise<Answer>;
  const put = useMutation({ mutationFn: send, onSuccess });
  const drop = useMutation({
    mutationFn: (rules: RuleName[]) => sendJson(`/api/b/${business}/draft/drop`, { rules }),
    onSuccess,
  });
  /** Changes part of a rule: where somebody else changed the rule meanwhile, theirs stays and this is made on top. */
  const revise = useMutation({
    async mutationFn({ name, from, make }: { name: RuleName; from: unknown; make: (rule: unknown) => unknown }) {
      let base = from;
      for (let tried = 1; ; tried++)
        try {
          return await send([{ ...name, value: make(base), from: base }]);
        } catch (error) {
          const [conflict] = conflictsIn(error);
          if (!conflict || tried === mostTries) throw error;
          base = conflict.theirs;
        }
    },
    onSuccess,
  });
  const problem = put.error ?? drop.error ?? revise.error;
  return {
    put,
    drop,
    revise,
    /** What was wrong with what was put, field by field. */
    wrong: (problem instanceof ApiProblem ? problem.fields : []) as WrongField[],
    problem: problem?.message ?? '',
    /** Rules that somebody else changed meanwhile. */
    conflicts: conflictsIn(put.error),
    /** What is doubtful about the rules since what was put last. */
    warnings: put.data?.warnings ?? [],
  };
}
