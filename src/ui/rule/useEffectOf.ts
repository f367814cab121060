import { useQuery, keepPreviousData } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { EffectView } from '../../core/plan/view';
import type { RuleChange } from '../../core/releases/rules';
import { sendJson } from '../text/read';

const settleAfter = 250;

/** What changes would do to what was recorded, asked while they are being written. */
export function useEffectOf(business: string, changes: RuleChange[]) {
  const [asked, setAsked] = useState(changes);
  const text = JSON.stringify(changes);
  useEffect(() => {
    const wait = setTimeout(() => setAsked(JSON.parse(text) as RuleChange[]), settleAfter);
    return () => clearTimeout(wait);
  }, [text]);
  return useQuery({
    queryKey: ['effect', business, asked],
    queryFn: () => sendJson(`/api/b/${business}/plan/effect`, { changes: asked }) as Promise<EffectView>,
    placeholderData: keepPreviousData,
    enabled: asked.length > 0,
  });
}
