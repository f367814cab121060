import { defineTable, text, time, uuid, whole } from './columns';
import type { WorkKind } from './work';

/** What there is to do in the background; see work.ts. */
export const work = defineTable('work', ['businessId', 'kind', 'subject'], {
  businessId: uuid(),
  kind: text<WorkKind>(),
  subject: uuid(),
  dueAt: time(),
  marks: whole(),
  attempts: whole(),
  owner: text().nullable(),
  leaseUntil: time().nullable(),
  lastError: text().nullable(),
  lane: text(),
});

/** What one process alone may do at a time, such as to migrate. */
export const leases = defineTable('leases', ['name'], {
  name: text(),
  owner: text(),
  until: time(),
});
