import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';

/** Marks a query by which a page reads what it shows: where that fails, the page says so. */
export const pageRead = { page: true };

/**
 * Lets what stands inside read itself anew. Each drawing of a page has a client of its own: on the server a shared one
 * would show one person what another had read. Once its script runs the page says so, for programs that drive it.
 * @param isPage false for what stands on every page beside what it is for
 */
export function Live({ children, isPage = true }: { children: ReactNode; isPage?: boolean }) {
  const [failure, setFailure] = useState('');
  const [client] = useState(
    () =>
      new QueryClient({
        queryCache: new QueryCache({
          onError: ({ message }, { meta }) => meta === pageRead && setFailure(message),
          onSuccess: (_, { meta }) => meta === pageRead && setFailure(''),
        }),
      }),
  );
  // Runs after the effects of all that stands inside: from here on the page takes keys.
  useEffect(() => {
    if (isPage) document.documentElement.dataset.ready = 'yes';
  }, [isPage]);
  return (
    <QueryClientProvider client={client}>
      {failure && (
        <p role="alert" className="text-error px-6 pt-4">
          What you see could not be read anew: {failure} It is tried again.
        </p>
      )}
      {children}
    </QueryClientProvider>
  );
}
