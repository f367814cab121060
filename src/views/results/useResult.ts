import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { pageRead } from '../../ui/live/Live';
import { useSettled } from '../../ui/rule/useSettled';
import { readJson } from '../../ui/text/read';

/**
 * A result by what its sentence asks for, which stands in the address: as the server drew it, then read anew once what is asked
 * has settled.
 *
 * @param asked what is asked for, as it stands in an address
 */
export function useResult<View>(api: string, asked: string, initial: View) {
  const query = useSettled(asked);
  const [begun] = useState(query);
  const { data, isPlaceholderData: isBusy } = useQuery({
    queryKey: [api, query],
    queryFn: () => readJson<View>(`${api}?${query}`),
    ...(query === begun ? { initialData: () => initial } : {}),
    placeholderData: keepPreviousData,
    meta: pageRead,
  });
  useEffect(() => history.replaceState(null, '', `?${query}`), [query]);
  return { view: data ?? initial, query, isBusy };
}
