import { postJson, type Answered } from '../shared/call';
import type { Surroundings } from '../shared/surroundings';

/** What the website's back end knows of an enquiry, as JSON. */
interface Sent {
  person: { name: string; mail: string; telephone: string; company: string };
  fields: Record<string, string>;
  amounts: { lease_profit: { amount: string } };
}
type Post = (body: string) => Promise<Answered>;

/** Hands an enquiry to Oakledger, whose interface takes it as the website writes it. */
export const toOakledger = (surroundings: Surroundings): Post => {
  const headers = { authorization: `Bearer ${surroundings.key('oakledger website token')}` };
  return (body) => postJson(`${surroundings.originOf('oakledger')}/api/deals`, headers, body);
};

/** Hands it to the plain CRM, which has other names for everything. */
export const toPlainCrm = (surroundings: Surroundings): Post => {
  const headers = { 'x-plain-key': surroundings.key('plain-crm key') };
  return (body) => {
    const { person, fields, amounts } = JSON.parse(body) as Sent;
    const record = {
      contact: { name: person.name, email: person.mail, phone: person.telephone },
      firm: person.company,
      value: Number(amounts.lease_profit.amount),
      extra: fields,
    };
    return postJson(`${surroundings.originOf('plain-crm')}/api/records`, headers, JSON.stringify(record));
  };
};
