import { expect, it } from 'vitest';
import { openCrm } from '../crms/crm';
import type { HttpClient } from '../http';
import type { Account } from '../platforms/accounts';
import { writeCampaignLinks } from './crm-campaigns';

const account = {
  kind: 'oakledger',
  name: 'Oakledger',
  endpoint: 'http://crm.example',
  secrets: { token: 't' },
} as unknown as Account;

it('a campaign’s field for links keeps what others wrote, and of ours has those that are in use', async () => {
  const campaign = {
    id: 'C 1',
    title: 'Winterproof',
    tracking_name: 'c',
    type: 'Search ads',
    owner: 'Maud',
    starts_on: null,
    ends_on: null,
    budget: null,
    links: ['https://by.hand/', 'https://ours/old'],
  };
  const sent: string[] = [];
  const http: HttpClient = async (url, { method = 'GET', body = '' } = {}) => {
    sent.push(`${method} ${url} ${body}`.trim());
    return { status: 200, headers: {}, body: JSON.stringify(campaign) };
  };
  const ours = { all: ['https://ours/old', 'https://ours/new'], used: ['https://ours/new'] };
  expect(
    await writeCampaignLinks(
      openCrm({ http, folders: {} as never, note: async () => undefined }, account, [])!,
      'C 1',
      ours,
    ),
  ).toBe(1);
  expect(sent).toEqual([
    'GET http://crm.example/api/campaigns/C%201',
    'POST http://crm.example/api/campaigns/C%201/links {"links":["https://by.hand/","https://ours/new"]}',
  ]);
});
