import type { NoCustomerRule } from '../capture/no-customer';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { list, said } = partsOf<NoCustomerRule>();
const lower = { oneWord: true, tidy: (text: string) => text.toLowerCase() };

/** Who and what is not counted, besides bots and browsers marked by their link. */
export const noCustomer = defineRule<NoCustomerRule>({
  station: 'Capture',
  at: inOne(['noCustomer']),
  says: [
    'Not customers: bots, and browsers marked by their link',
    said(
      ({ networks }) => networks.length > 0,
      '; people who come from ',
      list('networks', 'Networks', 'no network', lower),
    ),
    said(
      ({ mailDomains }) => mailDomains.length > 0,
      '; people with an email address at ',
      list('mailDomains', 'Mail domains', 'no domain', lower),
    ),
    said(({ hosts }) => hosts.length > 0, '; what happens on ', list('hosts', 'Hosts', 'no host', lower)),
    '.',
  ],
});
