import type { Sequelize } from 'sequelize';
import { selectRows, text } from '../db';

/** Links that a line is completed with. */
const mostLinks = 200;

/** The newest links of a business, each with what people call it. */
export async function readCampaignLinks(
  db: Sequelize,
  businessId: string,
): Promise<{ value: string; label: string }[]> {
  const rows = await selectRows(
    db,
    { url: text(), campaign: text(), place: text() },
    `FROM links WHERE business_id = ? AND retired_at IS NULL ORDER BY made_at DESC LIMIT ${mostLinks}`,
    [businessId],
  );
  return rows.map(({ url, campaign, place }) => ({
    value: url,
    label: [campaign, place].filter(Boolean).join(', '),
  }));
}
