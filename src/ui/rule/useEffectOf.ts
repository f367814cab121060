import { useQuery, keepPreviousData } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { RuleChange } from '../../core/rules';
import { sendJson } from '../text/read';

const settleAfter = 250;

/**
 * What changes would do to what was recorded, asked while they are being written.
 * @param api of the station's effect
 */
export function useEffectOf<Effect>(api: string, changes: RuleChange[]) {
  const [asked, setAsked] = useState(changes);
  const text = JSON.stringify(changes);
  useEffect(() => {
    const wait = setTimeout(() => setAsked(JSON.parse(text) as RuleChange[]), settleAfter);
    return () => clearTimeout(wait);
  }, [text]);
  return useQuery({
    queryKey: [api, asked],
    queryFn: () => sendJson(api, { changes: asked }) as Promise<Effect>,
    placeholderData: keepPreviousData,
    enabled: asked.length > 0,
  });
}
