import { useEffect, useEffectEvent, useState } from 'react';

/** How long (ms) until a stream that was refused is asked for again. */
const again = 5000;

/**
 * Follows what the server goes on saying at an address (server-sent events), while the page is looked at.
 *
 * @param take each message as it comes
 * @returns whether the connection is there; where it is lost it is made anew
 */
export function useStream<Message>(address: string, take: (message: Message) => void): boolean {
  const [isThere, setThere] = useState(true);
  const onMessage = useEffectEvent(take);
  useEffect(() => {
    let source: EventSource | null = null;
    let retry: ReturnType<typeof setTimeout> | undefined;
    const open = () => {
      source = new EventSource(address);
      source.onopen = () => setThere(true);
      source.onmessage = ({ data }) => onMessage(JSON.parse(data as string) as Message);
      source.onerror = () => {
        setThere(false);
        // The browser asks again by itself, but not where it was refused.
        if (source?.readyState === EventSource.CLOSED) retry = setTimeout(look, again);
      };
    };
    const look = () => {
      clearTimeout(retry);
      source?.close();
      source = null;
      if (document.visibilityState === 'visible') open();
    };
    look();
    document.addEventListener('visibilitychange', look);
    return () => {
      document.removeEventListener('visibilitychange', look);
      clearTimeout(retry);
      source?.close();
    };
  }, [address]);
  return isThere;
}
