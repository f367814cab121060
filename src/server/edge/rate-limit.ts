import type { IncomingMessage, ServerResponse } from 'node:http';
import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import { AvrixError } from '../../core/errors';

const everybody = () => Promise.resolve();

/**
 * Takes at most `perMinute` calls from one address, in this process; 0 takes all. Who sent too many is told how long to
 * wait, and a page keeps its hits until then.
 * @throws AVX_TOO_MANY
 */
export function makeRateLimit(
  perMinute: number,
  addressOf: (request: IncomingMessage) => string,
): (request: IncomingMessage, response: ServerResponse) => Promise<void> {
  if (perMinute === 0) return everybody;
  const limiter = new RateLimiterMemory({ points: perMinute, duration: 60 });
  return async (request, response) => {
    await limiter.consume(addressOf(request)).catch((full: RateLimiterRes) => {
      const seconds = Math.max(1, Math.ceil(full.msBeforeNext / 1000));
      response.setHeader('retry-after', seconds);
      throw new AvrixError('AVX_TOO_MANY', { limit: perMinute, seconds });
    });
  };
}
