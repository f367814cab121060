import { z } from 'zod';
import { changeLogSchema } from '../../../core/changes/schema';
import {
  accountStateSchema,
  changedAccountSchema,
  newAccountSchema,
  websiteSchema,
} from '../../../core/connections/schema';
import { crmRuleSchema } from '../../../core/leads/schema';
import { invitationSchema, rightsSchema } from '../../../core/people/schema';
import { does, reads, readsBy, takes, type Endpoint } from '../endpoint';

const changeColumns = { at: 'when', by: 'who', kind: 'what', subject: 'of', was: 'was', became: 'became' };
const trySchema = z.strictObject({ clickId: z.string().max(300).default(''), outcome: z.string().max(60).default('') });

export const connections: Endpoint[] = [
  reads('/connections', ({ connections: station }, { membership }) => station.view(membership)),
  // A secret that was made up here is said this once.
  takes(
    '/connections/accounts',
    newAccountSchema,
    ({ connections: station }, { membership, person, body }) => station.connect(membership, person.id, body),
    201,
  ),
  takes(
    '/connections/accounts/{account}',
    changedAccountSchema,
    ({ connections: station }, { membership, person, params, body }) =>
      station.change(membership, person.id, params.account!, body),
  ),
  takes(
    '/connections/accounts/{account}/state',
    accountStateSchema,
    ({ connections: station }, { membership, person, params, body: { state } }) =>
      station.setState(membership, person.id, params.account!, state),
  ),
  takes('/connections/accounts/{account}/try', trySchema, ({ tryAccounts }, { membership, params, body }) =>
    tryAccounts.tryOut(membership, params.account!, body),
  ),
  reads('/connections/accounts/{account}/arrivals', ({ ownCrmArrivals }, { membership, params }) =>
    ownCrmArrivals.view(membership, params.account!),
  ),
  does('/connections/accounts/{account}/arrivals/again', ({ ownCrmArrivals }, { membership, params }) =>
    ownCrmArrivals.again(membership, params.account!),
  ),
  does('/connections/accounts/{account}/file', ({ ownCrmArrivals }, { membership, params, request }) =>
    ownCrmArrivals.readFile(membership, params.account!, request),
  ),
  takes('/connections/websites', websiteSchema, ({ connections: station }, { membership, person, body }) =>
    station.addWebsite(membership, person.id, body.website),
  ),
  readsBy(
    '/connections/websites/check',
    z.object({ registrable: z.string().max(253) }),
    ({ websiteCheck }, { membership, query }) => websiteCheck(membership, query.registrable),
  ),

  reads('/crm', ({ crmStation }, { membership }) => crmStation.view(membership)),
  readsBy('/crm/offers', z.object({ account: z.string().max(40) }), ({ crmStation }, { membership, query }) =>
    crmStation.offers(membership, query.account),
  ),
  takes('/crm/effect', crmRuleSchema, ({ crmStation }, { membership, body }) => crmStation.effect(membership, body)),

  reads('/people', ({ members }, { membership }) => members.view(membership)),
  // The link is said this once.
  takes(
    '/people/invitations',
    invitationSchema,
    ({ members }, { membership, body }) => members.invite(membership, body),
    201,
  ),
  does('/people/invitations/{invitation}/withdraw', ({ members }, { membership, params }) =>
    members.withdraw(membership, params.invitation!),
  ),
  takes('/people/{person}', rightsSchema, ({ members }, { membership, params, body }) =>
    members.change(membership, params.person!, body),
  ),
  does('/people/{person}/remove', ({ members }, { membership, params }) => members.remove(membership, params.person!)),

  readsBy('/changes', changeLogSchema, ({ changes }, { membership, query }) => changes.page(membership, query)),
  readsBy('/changes.csv', changeLogSchema, ({ changes, files }, { membership, query, drained }) =>
    files.writeList('changes', changes.all(membership, query), changeColumns, drained),
  ),
];
