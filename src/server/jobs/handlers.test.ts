import { DatabaseError } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { nowMs } from '../clock';
import type { WorkItem } from '../db';
import { ServiceAway } from '../platforms/call';
import { putBack } from './handlers';

const item = { subject: 's', attempts: 0 } as WorkItem;

/** In how many seconds a piece is tried again. */
function waitOf(error: Error, attempts = 0): number {
  const before = nowMs();
  return (putBack({ ...item, attempts }, error).retryAt.getTime() - before) / 1000;
}

describe('work that could not be done', () => {
  it('is tried again within seconds where the database was too busy for it', () => {
    const busy = new DatabaseError(Object.assign(new Error('Lock wait timeout exceeded'), { sql: '' }));
    expect(waitOf(busy)).toBeGreaterThanOrEqual(2);
    expect(waitOf(busy)).toBeLessThan(4);
    expect(waitOf(busy, 5)).toBeGreaterThanOrEqual(64);
  });

  it('is tried again after a minute where something outside failed, or when that asks for it', () => {
    expect(waitOf(new Error('the answer did not name this row'))).toBeGreaterThanOrEqual(60);
    expect(waitOf(new ServiceAway('500', null, 'away'))).toBeGreaterThanOrEqual(60);
    const asked = waitOf(new ServiceAway('429', 7000, 'too many calls'));
    expect(asked).toBeGreaterThanOrEqual(7);
    expect(asked).toBeLessThan(9);
  });
});
