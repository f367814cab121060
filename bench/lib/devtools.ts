import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { WebSocket } from 'undici';

type Answer = { id: number; result?: unknown; error?: { message: string } };

/**
 * Debian's Chromium by its own protocol, with nothing switched on that is not asked for: what watches a page's requests
 * takes the stack of every one, which costs more than the page's own scripts.
 */
export async function startChromium() {
  const folder = mkdtempSync(join(tmpdir(), 'avrix-bench-'));
  const asRoot = process.getuid?.() === 0 ? ['--no-sandbox'] : [];
  const wanted = [
    '--headless',
    '--disable-gpu',
    '--no-first-run',
    '--remote-debugging-port=0',
    `--user-data-dir=${folder}`,
  ];
  const child = spawn('/usr/bin/chromium-headless-shell', [...asRoot, ...wanted, 'about:blank'], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.once('error', reject);
    createInterface(child.stderr).on('line', (line) => {
      const found = /DevTools listening on (ws:\S+)/.exec(line)?.[1];
      if (found) resolve(found);
    });
  });
  const socket = new WebSocket(address);
  await new Promise((resolve) => socket.addEventListener('open', resolve, { once: true }));
  const waiting = new Map<number, (answer: Answer) => void>();
  socket.addEventListener('message', ({ data }) => {
    const answer = JSON.parse(String(data)) as Answer;
    waiting.get(answer.id)?.(answer);
    waiting.delete(answer.id);
  });
  let last = 0;

  /** @throws with the browser's own words */
  function ask<Result>(method: string, params: object = {}, sessionId?: string): Promise<Result> {
    const id = ++last;
    socket.send(JSON.stringify({ id, method, params, ...(sessionId ? { sessionId } : {}) }));
    return new Promise((resolve, reject) =>
      waiting.set(id, ({ result, error }) => (error ? reject(new Error(error.message)) : resolve(result as Result))),
    );
  }

  return {
    /** A tab of a fresh profile: `ask` speaks to it, `end` closes both. */
    async openTab() {
      const { browserContextId } = await ask<{ browserContextId: string }>('Target.createBrowserContext');
      const { targetId } = await ask<{ targetId: string }>('Target.createTarget', {
        url: 'about:blank',
        browserContextId,
      });
      const { sessionId } = await ask<{ sessionId: string }>('Target.attachToTarget', { targetId, flatten: true });
      return {
        ask: <Result>(method: string, params: object = {}) => ask<Result>(method, params, sessionId),
        end: () => ask('Target.disposeBrowserContext', { browserContextId }),
      };
    },
    async end() {
      await ask('Browser.close').catch(() => undefined);
      await new Promise((resolve) => (child.exitCode === null ? child.once('exit', resolve) : resolve(null)));
      rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
    },
  };
}
