import type { Migration } from './index';

/** The ID of a campaign beside its name, by which clicks are compared with landings where the names differ. */
export const campaignIds: Migration[] = [
  {
    name: '0012-strands-utm-id',
    sql: "ALTER TABLE strands ADD COLUMN IF NOT EXISTS utm_id VARCHAR(200) NOT NULL DEFAULT ''",
  },
  {
    name: '0012-strands-utm-id-known',
    sql: `UPDATE strands s JOIN touches t ON t.business_id = s.business_id AND t.visitor_id = s.visitor_id
      AND t.at = s.first_at SET s.utm_id = t.utm_id WHERE s.kind <> 'enquiry' AND s.utm_id = '' AND t.utm_id <> ''`,
  },
  {
    name: '0012-click-reports-campaign-id',
    sql: "ALTER TABLE click_reports ADD COLUMN IF NOT EXISTS campaign_id VARCHAR(80) NOT NULL DEFAULT ''",
  },
];
