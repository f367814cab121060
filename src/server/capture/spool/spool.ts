/* eslint-disable no-await-in-loop -- one file is written and read, one batch after the other */
import { mkdirSync, readdirSync } from 'node:fs';
import { open, rename, unlink, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { AvrixError } from '../../../core/errors';
import { log } from '../../log';
import { decodeRecords, encodeRecord } from './record';

/** A file is closed and a new one begun at this size. */
const segmentBytes = 16 * 2 ** 20;
const readBytes = 4 * 2 ** 20;

interface Segment {
  file: string;
  handle: FileHandle | null;
  /** Bytes known to be on the disk; the writer reads no further while the file is being written. */
  synced: number;
  /** Bytes the writer is done with. */
  done: number;
  /** When it was begun, by this process's own clock (ms). */
  begunAt: number;
}

interface Waiting {
  record: Buffer;
  resolve(): void;
  reject(error: Error): void;
}

/** What the writer took from the spool; `settle` is called once it is safe elsewhere. */
export interface Taken {
  texts: string[];
  settle(): Promise<void>;
}
export type Spool = ReturnType<typeof openSpool>;

/**
 * Files that hold what was answered until it is in the database. A record is on the disk before `append` resolves; all
 * that come in while one sync runs share the next one. Files left by a process that was killed are taken up again.
 */
export function openSpool(folder: string) {
  mkdirSync(folder, { recursive: true });
  const segments: Segment[] = readdirSync(folder)
    .filter((name) => name.endsWith('.spool'))
    .sort()
    .map((name) => ({ file: join(folder, name), handle: null, synced: Infinity, done: 0, begunAt: 0 }));
  let last = Number(/(\d+)\.spool$/.exec(segments.at(-1)?.file ?? '')?.[1] ?? 0);
  let active: Segment | null = null;
  let queue: Waiting[] = [];
  let appended = 0;
  let syncing: Promise<void> | null = null;

  async function begin(): Promise<Segment> {
    last += 1;
    const file = join(folder, `${String(last).padStart(12, '0')}.spool`);
    active = { file, handle: await open(file, 'ax', 0o600), synced: 0, done: 0, begunAt: performance.now() };
    segments.push(active);
    return active;
  }

  async function finish(segment: Segment): Promise<void> {
    const { handle } = segment;
    segment.handle = null;
    segment.synced = Infinity;
    if (active === segment) active = null;
    await handle?.close().catch(() => undefined);
  }

  async function syncAll(): Promise<void> {
    while (queue.length > 0) {
      const batch = queue;
      queue = [];
      try {
        const segment = active ?? (await begin());
        const bytes = Buffer.concat(batch.map((waiting) => waiting.record));
        await segment.handle!.appendFile(bytes);
        await segment.handle!.datasync();
        segment.synced += bytes.length;
        for (const waiting of batch) waiting.resolve();
        if (segment.synced >= segmentBytes) await finish(segment);
      } catch (error) {
        log.error({ error: (error as Error).message }, 'spool could not be written');
        if (active) await finish(active);
        for (const waiting of batch) waiting.reject(new AvrixError('AVX_SPOOL_AWAY'));
      }
    }
    // At once, not when this promise is seen to be done: what is appended in between would wait for the next one.
    syncing = null;
  }

  function sync(): Promise<void> {
    if (!syncing && queue.length === 0) return Promise.resolve();
    return (syncing ??= syncAll());
  }

  /** What stands in the oldest file from where the writer is, at most `most` records; null when nothing does. */
  async function take(most: number): Promise<Taken | null> {
    for (;;) {
      const segment = segments[0];
      if (!segment) return null;
      const isOpen = segment.handle !== null;
      const { texts, bytes, damaged } = await read(segment, most);
      if (texts.length > 0)
        return {
          texts,
          settle: async () => void (segment.done += bytes),
        };
      if (isOpen) return null;
      segments.shift();
      if (damaged) {
        log.error({ file: segment.file, at: segment.done }, 'spool file is damaged; the rest of it is kept aside');
        await rename(segment.file, `${segment.file}.damaged`);
      } else await unlink(segment.file);
    }
  }

  async function read({ file, synced, done }: Segment, most: number) {
    const handle = await open(file, 'r');
    try {
      const bytes = Buffer.allocUnsafe(Math.min(readBytes, synced - done));
      const { bytesRead } = await handle.read(bytes, 0, bytes.length, done);
      return decodeRecords(bytes.subarray(0, bytesRead), most);
    } finally {
      await handle.close();
    }
  }

  return {
    /** Records appended since the process began. */
    appended: () => appended,
    /** @throws AVX_SPOOL_AWAY where the disk is full or gone; nothing was answered then, and it is sent again */
    append(text: string): Promise<void> {
      appended += 1;
      return new Promise((resolve, reject) => {
        queue.push({ record: encodeRecord(text), resolve, reject });
        void sync();
      });
    },
    take,
    /**
     * Closes the file that is being written, so that it is gone once the writer is done with it; what comes goes to the next.
     * @param age only where it was begun so long (ms) ago
     */
    async turn(age = 0): Promise<void> {
      await sync();
      if (active && performance.now() - active.begunAt >= age) await finish(active);
    },
    async close(): Promise<void> {
      await sync();
      if (active) await finish(active);
    },
  };
}
