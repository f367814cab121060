import { useQuery, keepPreviousData } from '@tanstack/react-query';
import type { RuleChange } from '../../core/rules';
import { sendJson } from '../text/read';
import { useSettled } from './useSettled';

/**
 * What changes would do to what was recorded, asked while they are being written.
 * @param api of the station's effect
 */
export function useEffectOf<Effect>(api: string, changes: RuleChange[]) {
  const asked = useSettled(changes);
  return useQuery({
    queryKey: [api, asked],
    queryFn: () => sendJson(api, { changes: asked }) as Promise<Effect>,
    placeholderData: keepPreviousData,
    enabled: asked.length > 0,
  });
}
