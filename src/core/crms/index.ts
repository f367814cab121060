import type { CrmContract } from './contract';
import { oakledger } from './oakledger';

export type { CrmCampaign, CrmContract, CrmEvent, CrmField, ReadRecord } from './contract';

/** Every kind of CRM that ships. */
export const crmKinds: readonly CrmContract[] = [oakledger];

/** The contract of a kind of CRM, or null where Avrix knows none. */
export const crmContractOf = (kind: string): CrmContract | null =>
  crmKinds.find((contract) => contract.kind === kind) ?? null;
