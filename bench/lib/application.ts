import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { request as ask } from 'undici';
import { freePorts } from '../../scripts/lib/ports.mjs';
import type { Config } from '../../src/server/config';

const switchText = 'bench-switch-of-its-own';

/** Starts the built application with its spool writer; the background work that follows is at rest. */
export async function startApplication(folder: string, config: Config) {
  const port = await freePorts(5900, 1);
  const application = spawn(process.execPath, ['dist/app/main.js'], {
    env: {
      PATH: process.env.PATH,
      NODE_ENV: 'production',
      AVRIX_LOG: 'fatal',
      AVRIX_COLLECT_PER_MINUTE: '0',
      AVRIX_PORT: String(port),
      AVRIX_DATA: folder,
      AVRIX_TEST_SWITCH: switchText,
      AVRIX_DATABASE_URL: config.databaseUrl,
      AVRIX_SECRET_KEY: config.secretKey.toString('hex'),
    },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  process.on('exit', () => application.kill('SIGKILL'));
  await once(application, 'message');
  const host = `avrix-edge.localhost:${port}`;
  async function door(name: string, body: object): Promise<void> {
    const { body: answer } = await ask(`http://127.0.0.1:${port}/_test/${name}`, {
      method: 'POST',
      body: JSON.stringify(body),
      headersTimeout: 120_000,
      headers: { host, 'avrix-test-switch': switchText },
    });
    await answer.dump();
  }
  await door('clock', { at: null, paused: true });
  /** Writes what stands in the spool. */
  return { port, host, drain: () => door('drain', {}) };
}
