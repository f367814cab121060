import { useQuery } from '@tanstack/react-query';
import { readJson } from '../text/read';
import { pageRead } from './Live';

/**
 * What a page shows: as the server drew it, and read anew when something was changed.
 * @param every ms after which it is read anew by itself, or how long for what it shows; false: not by itself
 */
export function useView<View>(
  api: string,
  initial: View,
  every: number | false | ((view: View) => number | false) = false,
): View {
  const { data } = useQuery<View>({
    queryKey: [api],
    queryFn: () => readJson<View>(api),
    initialData: () => initial,
    meta: pageRead,
    refetchInterval: ({ state }) => (typeof every === 'function' ? every(state.data ?? initial) : every),
  });
  return data ?? initial;
}
