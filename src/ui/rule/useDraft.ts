import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { WrongField } from '../../core/errors';
import type { RuleChange, RuleName } from '../../core/rules';
import { sayDraftChanged } from './draft-changed';
import { ApiProblem, sendJson } from '../text/read';

/** Puts changes into the business's draft and has the page read itself anew. */
export function useDraft(business: string) {
  const client = useQueryClient();
  const onSuccess = () => {
    sayDraftChanged();
    return client.invalidateQueries();
  };
  const put = useMutation({
    mutationFn: (changes: RuleChange[]) => sendJson(`/api/b/${business}/draft`, { changes }),
    onSuccess,
  });
  const drop = useMutation({
    mutationFn: (rules: RuleName[]) => sendJson(`/api/b/${business}/draft/drop`, { rules }),
    onSuccess,
  });
  const problem = put.error ?? drop.error;
  return {
    put,
    drop,
    /** What was wrong with what was put, field by field. */
    wrong: (put.error instanceof ApiProblem ? put.error.fields : []) as WrongField[],
    problem: problem?.message ?? '',
  };
}
