import type { Server } from 'node:http';
import type { Socket } from 'node:net';
import { isOfNetworks } from '../capture/networks';

export interface ConnectionLimits {
  /** Open at once from one address, proxies of one's own aside. */
  perAddress: number;
  /** Open at once in all. */
  total: number;
  trusted: string[];
}

export const usualConnections = { perAddress: 256, total: 4000 };

/**
 * Keeps open connections within limits. One too many from an address is closed; where there are too many in all, the one
 * that has been still for longest gives way, so that new ones go on being served.
 */
export function limitConnections(server: Server, { perAddress, total, trusted }: ConnectionLimits): void {
  /** Every open one, the longest still first: one that speaks goes to the end. */
  const open = new Set<Socket>();
  const byAddress = new Map<string, number>();
  const answering = new Set<Socket>();
  function longestStill(besides: Socket): Socket | null {
    for (const one of open) if (one !== besides && !answering.has(one)) return one;
    return null;
  }

  server.on('connection', (socket) => {
    const address = socket.remoteAddress ?? '';
    const count = (byAddress.get(address) ?? 0) + 1;
    if (count > perAddress && !isOfNetworks(address, trusted)) return void socket.destroy();
    byAddress.set(address, count);
    open.add(socket);
    socket.once('close', () => {
      open.delete(socket);
      const left = byAddress.get(address)! - 1;
      if (left > 0) byAddress.set(address, left);
      else byAddress.delete(address);
    });
    if (open.size > total) longestStill(socket)?.destroy();
  });
  server.on('request', ({ socket }, response) => {
    open.delete(socket);
    open.add(socket);
    answering.add(socket);
    response.once('close', () => answering.delete(socket));
  });
}
