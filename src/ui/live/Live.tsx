import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';

/**
 * Lets what stands inside read itself anew. Each drawing of a page has a client of its own: on the server a shared one
 * would show one person what another had read. Once its script runs the page says so, for programs that drive it.
 */
export function Live({ children }: { children: ReactNode }) {
  const [client] = useState(() => new QueryClient());
  // Runs after the effects of all that stands inside: from here on the page takes keys.
  useEffect(() => {
    document.documentElement.dataset.ready = 'yes';
  }, []);
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
