import type { AskedCrm, CrmContract } from './contract';
import { oakledger } from './oakledger';
import { ownCrmContract } from './own';
import type { OwnCrm } from './schema';

export type {
  AskedCrm,
  CrmCampaign,
  CrmContract,
  CrmEvent,
  CrmField,
  MergedRecord,
  ReadRecord,
  RecordsCrm,
} from './contract';

/** Every kind of CRM that ships. */
export const crmKinds: readonly AskedCrm[] = [oakledger];

/** The contract of a kind of CRM, or null where Avrix knows none. @param own those that the business describes itself */
export function crmContractOf(kind: string, own: readonly OwnCrm[]): CrmContract | null {
  const shipped = crmKinds.find((contract) => contract.kind === kind);
  if (shipped) return shipped;
  const described = own.find((crm) => crm.kind === kind);
  return described ? ownCrmContract(described) : null;
}
