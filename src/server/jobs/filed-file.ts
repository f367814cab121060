import type { makeTakeFiled } from '../outcomes/filed/take';
import { putBack } from './handlers';
import { defineJob, type JobResult } from './job';

/** Takes a file of conversions; each file is a lane, so that a long one holds up no other. */
export const filedFileJob = (take: ReturnType<typeof makeTakeFiled>) =>
  defineJob({
    kind: 'filed_file',
    claim: 1,
    lanes: 2,
    async run([item], held): Promise<JobResult[]> {
      if (!item) return [];
      try {
        const goesOn = async () => (await held.still([item])).length > 0;
        return [{ item, again: await take(item.businessId, item.subject, goesOn) }];
      } catch (error) {
        return [putBack(item, error)];
      }
    },
  });
