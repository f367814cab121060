import { readHashed } from '../../core/events/mail-hash';
import type { MakePart } from '../part';

/** Lets events read an email address by its hash, where somebody agreed to what it is for. */
export const part: MakePart = ({ setup }) => ({
  work({ hearing, hitOf }) {
    hearing.hash = (id, mail) =>
      readHashed(setup.hashes!, id, mail, hitOf({ kind: 'consent' }).consent ?? null, setup.rules.consent.required);
  },
});
