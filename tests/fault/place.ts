import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import { startMariaDb } from '../../scripts/lib/mariadb.mjs';
import { freePorts } from '../../scripts/lib/ports.mjs';
import { makeEnds } from '../../scripts/lib/program.mjs';
import { connect } from '../../src/server/db';

export interface Answer {
  status: number;
  body: string;
}

/** An application of its own over a MariaDB of its own, both of which can be killed and started again. */
export async function makeFaultPlace() {
  const folder = mkdtempSync(join(tmpdir(), 'avrix-fault-'));
  const port = await freePorts(5300, 2);
  const agent = new Agent({ keepAlive: true, maxSockets: 64 });
  const testSwitch = randomBytes(16).toString('hex');
  let databaseEnds = makeEnds();
  const url = await startMariaDb(folder, databaseEnds, port + 1);
  let application: ChildProcess | null = null;

  function ask(path: string, headers: Record<string, string>, body: string): Promise<Answer> {
    return new Promise((resolve, reject) => {
      const host = `avrix-edge.localhost:${port}`;
      const call = request(
        { host: '127.0.0.1', port, path, method: 'POST', agent, headers: { host, ...headers } },
        (answer) => {
          const chunks: Buffer[] = [];
          answer.on('data', (chunk: Buffer) => chunks.push(chunk));
          answer.on('end', () => resolve({ status: answer.statusCode!, body: Buffer.concat(chunks).toString() }));
          answer.on('error', reject);
        },
      );
      call.on('error', reject);
      call.end(body);
    });
  }

  const place = {
    folder,
    async start(): Promise<void> {
      const child = spawn(process.execPath, ['dist/app/main.js'], {
        env: {
          PATH: process.env.PATH,
          NODE_ENV: 'production',
          AVRIX_PORT: String(port),
          AVRIX_DATA: folder,
          AVRIX_DATABASE_URL: url,
          AVRIX_SECRET_KEY: 'a'.repeat(64),
          AVRIX_TEST_SWITCH: testSwitch,
          AVRIX_LOG: 'fatal',
          AVRIX_COLLECT_PER_MINUTE: '0',
        },
        stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      });
      application = child;
      await new Promise((resolve, reject) => {
        child.once('message', resolve);
        child.once('exit', (code) => reject(new Error(`the application ended with ${code}`)));
      });
      // What is tested here is that hits arrive; what follows from them is worked out elsewhere.
      await place.door('clock', { at: null, paused: true });
    },
    async kill(): Promise<void> {
      const gone = new Promise((resolve) => application!.once('exit', resolve));
      application!.kill('SIGKILL');
      await gone;
    },
    stopDatabase: () => databaseEnds.all(),
    async startDatabase(): Promise<void> {
      databaseEnds = makeEnds();
      await startMariaDb(folder, databaseEnds, port + 1);
    },
    async door(name: string, body: object): Promise<void> {
      const { status, body: text } = await ask(
        `/_test/${name}`,
        { 'avrix-test-switch': testSwitch },
        JSON.stringify(body),
      );
      if (status >= 300) throw new Error(`${name}: ${text}`);
    },
    collect: (body: string) => ask('/collect/larkmoor', {}, body),
    async query<Row>(sql: string): Promise<Row[]> {
      const db = connect(url);
      const rows = await db.query(sql, { type: QueryTypes.SELECT });
      await db.close();
      return rows as Row[];
    },
    async end(): Promise<void> {
      agent.destroy();
      if (application?.exitCode === null) await place.kill();
      await databaseEnds.all();
      rmSync(folder, { recursive: true, force: true });
    },
  };
  await place.start();
  return place;
}
