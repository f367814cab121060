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

/** Starts one of the built programs and waits until it is ready. */
export async function startProgram(
  file: 'main' | 'worker',
  environment: Record<string, string>,
): Promise<ChildProcess> {
  const child = spawn(process.execPath, [`dist/app/${file}.js`], {
    env: { PATH: process.env.PATH, NODE_ENV: 'production', AVRIX_LOG: 'fatal', ...environment },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  await new Promise((resolve, reject) => {
    child.once('message', resolve);
    child.once('exit', (code) => reject(new Error(`${file} ended with ${code}`)));
  });
  return child;
}
export async function killed(child: ChildProcess): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

/** Asks a program's edge, as pages and outside services do. */
export function askEdge(
  port: number,
  path: string,
  headers: Record<string, string>,
  body: string | null,
  agent?: Agent,
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const host = `avrix-edge.localhost:${port}`;
    const method = body === null ? 'GET' : 'POST';
    const call = request({ host: '127.0.0.1', port, path, method, agent, headers: { host, ...headers } }, (answer) => {
      const chunks: Buffer[] = [];
      answer.on('data', (chunk: Buffer) => chunks.push(chunk));
      answer.on('end', () => resolve({ status: answer.statusCode!, body: Buffer.concat(chunks).toString() }));
      answer.on('error', reject);
    });
    call.on('error', reject);
    call.end(body ?? undefined);
  });
}

/** An application of its own over a MariaDB of its own, both of which can be killed and started again. */
export async function makeFaultPlace(environment: Record<string, string> = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'avrix-fault-'));
  // The application, MariaDB, and a second application on the same database.
  const port = await freePorts(5300 + 100 * Number(process.env.VITEST_POOL_ID ?? 0), 3);
  const second = port + 2;
  const agent = new Agent({ keepAlive: true, maxSockets: 64 });
  const testSwitch = randomBytes(16).toString('hex');
  let databaseEnds = makeEnds();
  const url = await startMariaDb(folder, databaseEnds, port + 1);
  let application: ChildProcess | null = null;

  const ask = (path: string, headers: Record<string, string>, body: string | null, at = port) =>
    askEdge(at, path, headers, body, agent);

  const workers: ChildProcess[] = [];

  const run = (file: 'main' | 'worker', data: string, at = port) =>
    startProgram(file, {
      AVRIX_PORT: String(at),
      AVRIX_DATA: data,
      AVRIX_DATABASE_URL: url,
      AVRIX_SECRET_KEY: 'a'.repeat(64),
      AVRIX_TEST_SWITCH: testSwitch,
      AVRIX_COLLECT_PER_MINUTE: '0',
      ...environment,
    });

  const place = {
    folder,
    async start(): Promise<void> {
      application = await run('main', folder);
      // What is tested here is that hits arrive; what follows from them is worked out elsewhere.
      await place.door('clock', { at: null, paused: true });
    },
    /** A second application on the same database, with a spool of its own; both do background work from then on. */
    async startSecond(): Promise<void> {
      workers.push(await run('main', join(folder, 'second'), second));
      await place.door('clock', { at: null, paused: false });
    },
    collectAtSecond: (body: string) => ask('/take/larkmoor', {}, body, second),
    /** Another process for background work; returns how to kill it. */
    async startWorker(): Promise<() => Promise<void>> {
      const child = await run('worker', join(folder, `worker-${workers.length}`));
      workers.push(child);
      return () => killed(child);
    },
    /** Another one, which can be made to stand still and to go on, as on a machine that is out of breath. */
    async startBreathless(): Promise<{ hold: () => void; goOn: () => void }> {
      const child = await run('worker', join(folder, `worker-${workers.length}`));
      workers.push(child);
      return { hold: () => void child.kill('SIGSTOP'), goOn: () => void child.kill('SIGCONT') };
    },
    kill: () => killed(application!),
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
    collect: (body: string) => ask('/take/larkmoor', {}, body),
    /** Opens an address of the edge as a person's browser does. */
    get: (path: string) =>
      ask(path, { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/156.0 Safari/537.36' }, null),
    /** Changes something in the database. */
    async run(sql: string): Promise<void> {
      const db = connect(url);
      await db.query(sql);
      await db.close();
    },
    async query<Row>(sql: string): Promise<Row[]> {
      const db = connect(url);
      const rows = await db.query(sql, { type: QueryTypes.SELECT });
      await db.close();
      return rows as Row[];
    },
    async end(): Promise<void> {
      agent.destroy();
      for (const child of [application!, ...workers])
        if (child.exitCode === null && child.signalCode === null) await killed(child);
      await databaseEnds.all();
      rmSync(folder, { recursive: true, force: true });
    },
  };
  await place.start();
  return place;
}
