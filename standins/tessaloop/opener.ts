/**
 * The script that advertisers load on their pages before their first event. It knows a visitor by the click ID in the
 * address, and remembers it in the page's own storage. What was to be said is sent also while the page closes.
 */
export const openerScript = (origin: string): string => `(() => {
  const kept = 'tessaloop_tsl';
  const came = new URLSearchParams(location.search).get('tsl');
  if (came) try { localStorage.setItem(kept, came); } catch {}
  const who = () => { try { return localStorage.getItem(kept) ?? came; } catch { return came; } };
  globalThis.tessaloop = {
    opened: (globalThis.tessaloop?.opened ?? 0) + 1,
    say(note) {
      if (!note?.ref || !note.what) throw new TypeError('a note needs ref and what');
      const tsl = who();
      return fetch('${origin}/seen', {
        method: 'POST',
        keepalive: true,
        headers: { 'content-type': 'text/plain' },
        body: JSON.stringify({ moment: new Date().toISOString(), who: tsl ? { tsl } : {}, ...note }),
      });
    },
  };
})();
`;
