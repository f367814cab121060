import type { IncomingMessage, ServerResponse } from 'node:http';
import { describe, expect, it } from 'vitest';
import { makeRateLimit } from './rate-limit';

const from = (remoteAddress: string) => ({ socket: { remoteAddress } }) as IncomingMessage;
const answer = () => {
  const headers: Record<string, unknown> = {};
  return {
    headers,
    response: { setHeader: (name: string, value: unknown) => (headers[name] = value) } as unknown as ServerResponse,
  };
};

describe('the limit of calls from one address', () => {
  it('lets through what it may, then says how long to wait, and nobody else pays for it', async () => {
    const limit = makeRateLimit(3, ({ socket }) => socket.remoteAddress ?? '');
    for (let i = 0; i < 3; i++) await limit(from('10.0.0.1'), answer().response);
    const { headers, response } = answer();
    await expect(limit(from('10.0.0.1'), response)).rejects.toMatchObject({ code: 'AVX_TOO_MANY', status: 429 });
    expect(headers['retry-after']).toBeGreaterThan(50);
    await expect(limit(from('10.0.0.2'), answer().response)).resolves.toBeUndefined();
  });

  it('is off at 0', async () => {
    const limit = makeRateLimit(0, () => '');
    for (let i = 0; i < 100; i++) await limit(from('10.0.0.1'), answer().response);
  });
});
