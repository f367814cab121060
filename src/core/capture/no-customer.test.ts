import { describe, expect, it } from 'vitest';
import { isOwnMail, mailDomainOf, markOf, noCustomerRuleSchema } from './no-customer';

const at = (host: string, noCustomer?: true) => ({
  address: `https://${host}/fleet`,
  ...(noCustomer ? { noCustomer } : {}),
});

describe('why something is no customer’s', () => {
  it.each([
    ['a bot, whatever else it is', at('staging.l.example', true), 'bot', 'bot'],
    ['an own network', at('l.example', true), 'network', 'network'],
    ['a marked browser', at('staging.l.example', true), '', 'browser'],
    ['a host of makers only', at('staging.l.example'), '', 'host'],
    ['what lies under such a host', at('a.staging.l.example'), '', 'host'],
    ['nothing', at('l.example'), '', ''],
    ['nothing on a host that only ends alike', at('notstaging.l.example'), '', ''],
  ] as const)('is %s', (_, hit, edge, mark) => {
    expect(markOf(hit, edge, ['staging.l.example'])).toBe(mark);
  });

  it.each([
    ['anna@Larkmoor.Example ', 'larkmoor.example', true],
    ['anna@mail.larkmoor.example', 'mail.larkmoor.example', true],
    ['"a@b"@bakery.example', 'bakery.example', false],
    ['anna@notlarkmoor.example', 'notlarkmoor.example', false],
    ['no address', '', false],
  ])('a mail address %s is of %s', (mail, domain, own) => {
    expect(mailDomainOf(mail)).toBe(domain);
    expect(isOwnMail(domain, ['larkmoor.example'])).toBe(own);
  });

  it.each([
    [{ networks: ['203.0.113.0/24', '2001:db8::/32', '198.51.100.7'], mailDomains: ['l.example'], hosts: [] }, true],
    [{ networks: ['203.0.113.0/40'], mailDomains: [], hosts: [] }, false],
    [{ networks: ['office'], mailDomains: [], hosts: [] }, false],
    [{ networks: [], mailDomains: ['@l.example'], hosts: [] }, false],
    [{ networks: [], mailDomains: [], hosts: ['https://l.example'] }, false],
  ])('a list %j is taken: %s', (rule, taken) => expect(noCustomerRuleSchema.safeParse(rule).success).toBe(taken));
});
