import { defineTable, type RowOf, bigint, day, text, time, uuid } from '../db/columns';
import type { CampaignStage } from '../../core/plan/stages';

export const campaigns = defineTable('campaigns', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  friendly: text(),
  stage: text<CampaignStage>(),
  startsOn: day().nullable(),
  endsOn: day().nullable(),
  budgetMinor: bigint().nullable(),
  currency: text(),
  owner: text(),
  note: text(),
  crmAccount: text().nullable(),
  crmId: text().nullable(),
  crmType: text(),
  madeAt: time(),
  changedAt: time(),
  retiredAt: time().nullable(),
});
export type CampaignRow = RowOf<typeof campaigns>;
