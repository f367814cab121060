import { AvrixError } from '../../core/errors';
import { edgeName } from '../edge/edge-name';
import type { Context } from '../context';
import type { Membership } from '../people/people';

/** Whether a website's own subdomain leads here, and what it does instead. */
export interface WebsiteCheck {
  leadsHere: boolean;
  words: string;
}

/** Looks whether a website's own subdomain leads to this installation. */
export const makeWebsiteCheck =
  ({ tables, config, http }: Context) =>
  /** @throws AVX_NOT_FOUND */
  async ({ business }: Membership, registrable: string): Promise<WebsiteCheck> => {
    const website = await tables.websites.findOne({ where: { businessId: business.id, registrable } });
    if (!website) throw new AvrixError('AVX_NOT_FOUND', { what: 'website' });
    const { protocol, port, hostname } = new URL(config.edgeOrigin);
    const host = `t.${registrable}`;
    const address = `${protocol}//${host}${port ? `:${port}` : ''}/health`;
    try {
      const { status, body } = await http(address);
      if (body === `alive ${edgeName(config.secretKey)}`) return { leadsHere: true, words: `${host} leads here.` };
      return {
        leadsHere: false,
        words: `${host} is answered by another server (${status}). Point its CNAME record at ${hostname}.`,
      };
    } catch (error) {
      return {
        leadsHere: false,
        words: `${host} could not be reached: ${(error as Error).message}. Set its CNAME record to ${hostname}; that may take an hour to be known.`,
      };
    }
  };
