import { useQuery } from '@tanstack/react-query';
import { readJson } from '../../ui/text/read';

/** A page's view, read anew when something was changed. */
export function useView<View>(api: string, initial: View): View {
  const { data } = useQuery<View>({ queryKey: [api], queryFn: () => readJson<View>(api), initialData: () => initial });
  return data ?? initial;
}
