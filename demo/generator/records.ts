import type { DemoEvent } from './journeys';
import type { PretendPerson } from './names';
import type { DemoSize } from './sizes';

const day = 86_400_000;

const person = (name: string, company: string, mail: string, telephone: string, bikes = 3): PretendPerson => ({
  name,
  company,
  mail,
  telephone,
  bikes,
});
/** Two businesses of one yard that answer one mailbox. */
const bread = person('Dilys Kerr', 'Marram Bread', 'info@marram-yard.example', '+44 1632 960011');
const fish = person('Teun Prins', 'Marram Fish', 'info@marram-yard.example', '+44 1632 960012');
/** One person whom sales wrote down twice, once by the first name alone. */
const rhys = person('Rhys Gould', 'Fennick Florist', 'rhys@fennick-florist.example', '+44 1632 960013');
/** One person under two addresses, whose records and deals sales merged once it was noticed. */
const oona = person('Oona Trevail', 'Penrose Parcels', 'oona@penrose-parcels.example', '+44 1632 960014');
const oonaAgain = person('O. Trevail', 'Penrose Parcels Ltd', 'trevail@tern-post.example', '');

/**
 * What people who rang became in the CRM, in the last weeks before `end` (ms): records of one person, of one mailbox, and
 * merged ones. In no demo without faults.
 */
export function generateRecords(size: DemoSize, end: number): DemoEvent[] {
  if (!size.faults) return [];
  const midnight = Math.floor(end / day) * day;
  /** So many days before the end, at an hour of the day. */
  const at = (days: number, hour: number) => midnight - days * day + hour * 3_600_000;
  return [
    { kind: 'rings', at: at(20, 10), person: bread },
    { kind: 'rings', at: at(17, 11), person: fish },
    { kind: 'rings', at: at(16, 14), person: rhys },
    { kind: 'rings', at: at(12, 15), person: { ...rhys, name: 'Rhys' } },
    { kind: 'rings', at: at(15, 9), person: oona },
    { kind: 'rings', at: at(11, 13), person: oonaAgain },
    { kind: 'merge', at: at(10, 16), mail: oonaAgain.mail, into: oona.mail },
  ];
}
