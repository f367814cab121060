import type { IncomingMessage } from 'node:http';
import { AvrixError } from '../../core/errors';

/** Bytes of bodies that this process holds at once while they are read; more would be its end. */
const mostHeld = 64 * 2 ** 20;
/** Seconds after which a body must have come at a rate, and bytes a second of it. */
const slow = { after: 5, rate: 512 };

interface Reading {
  bytes: number;
  /** Whole seconds since it began. */
  seconds: number;
  end(error: AvrixError): void;
}
const running = new Set<Reading>();
let held = 0;

// One look a second at all that are being read: a timer for each would cost more than most bodies.
setInterval(() => {
  for (const reading of running) {
    reading.seconds += 1;
    if (reading.seconds >= slow.after && reading.bytes < slow.rate * reading.seconds)
      reading.end(new AvrixError('AVX_BODY_SLOW', { rate: slow.rate }));
  }
}, 1000).unref();

/**
 * Reads a body up to `limit` bytes, whatever it says of its own length.
 * @throws AVX_BODY_TOO_LARGE before more is read, AVX_BODY_SLOW, AVX_BUSY where others' bodies take all there is
 */
export function readBytes(request: IncomingMessage, limit: number): Promise<Buffer> {
  const told = Number(request.headers['content-length'] ?? 0);
  if (told > limit) return Promise.reject(new AvrixError('AVX_BODY_TOO_LARGE', { bytes: told, limit }));
  return new Promise((resolve, reject) => {
    let chunks: Buffer[] = [];
    const reading: Reading = { bytes: 0, seconds: 0, end };
    running.add(reading);
    function settle(): void {
      if (!running.delete(reading)) return;
      held -= reading.bytes;
      request.off('data', take);
    }
    function end(error: Error): void {
      settle();
      chunks = [];
      // What still comes is let go by; the answer ends the connection.
      request.resume();
      reject(error);
    }
    function take(chunk: Buffer): void {
      reading.bytes += chunk.length;
      held += chunk.length;
      if (reading.bytes > limit) end(new AvrixError('AVX_BODY_TOO_LARGE', { bytes: reading.bytes, limit }));
      else if (held > mostHeld) end(new AvrixError('AVX_BUSY'));
      else chunks.push(chunk);
    }
    request.on('data', take);
    request.once('end', () => {
      settle();
      resolve(Buffer.concat(chunks));
    });
    request.once('error', end);
    request.once('close', () => end(new Error('the connection was closed before the body was whole')));
  });
}

/** Reads a body of text in UTF-8. @throws as `readBytes` */
export const readBody = async (request: IncomingMessage, limit: number): Promise<string> =>
  (await readBytes(request, limit)).toString('utf8');

const kilobyte = 1024;
/** The most that each kind of door of the interface and the API takes; the first that fits holds. */
const doors: [path: RegExp, limit: number][] = [
  [/^\/api\/(sign-in|sign-out|join|businesses|you\/)/, 16 * kilobyte],
  [/^\/api\/v1\//, 64 * kilobyte],
  // A hundred thousand rows of conversions and some.
  [/^\/api\/b\/[^/]+\/report-backs\/files\/bring/, 32 * kilobyte * kilobyte],
  // Five thousand links with their tags, or a file of five megabytes.
  [/^\/api\/b\//, 8 * kilobyte * kilobyte],
];

/** The most bytes that a door of the interface takes; none where no door takes any. */
export const limitOf = (path: string): number => doors.find(([door]) => door.test(path))?.[1] ?? 0;

/** Reads a body before anything else sees a byte of it, and leaves it for who reads the request. @throws as `readBytes` */
export async function holdBody(request: IncomingMessage): Promise<void> {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const bytes = await readBytes(request, limitOf(request.url ?? ''));
  Object.assign(request, {
    // A body that can be gone through once, as a stream can.
    body: (async function* () {
      yield bytes;
    })(),
  });
}
