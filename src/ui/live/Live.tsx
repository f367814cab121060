import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';

/**
 * Lets what stands inside read itself anew. Each drawing of a page has a client of its own: on the server a shared one
 * would show one person what another had read.
 */
export function Live({ children }: { children: ReactNode }) {
  const [client] = useState(() => new QueryClient());
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
