import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import type { DraftState } from '../../core/releases/view';
import { readJson } from '../text/read';

/** Ms. What is asked is small; what the page shows is read anew only where it says that something changed. */
const betweenLooks = 5000;

/** Reads the page anew when somebody, here or elsewhere, changed a rule or made a release. */
export function useDraftWatch(business: string): void {
  const client = useQueryClient();
  const api = `/api/b/${business}/draft/state`;
  const { data } = useQuery({
    queryKey: [api],
    queryFn: () => readJson<DraftState>(api),
    refetchInterval: betweenLooks,
  });
  const state = data ? JSON.stringify(data) : '';
  const known = useRef('');
  useEffect(() => {
    if (known.current !== '' && state !== known.current)
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== api });
    known.current = state;
  }, [state, api, client]);
}
