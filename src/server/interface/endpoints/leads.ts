import {
  callGivenSchema,
  callNumberIdSchema,
  callNumberSchema,
  callSettingsSchema,
} from '../../../core/leads/calls-view';
import { importGivenSchema, importHowSchema } from '../../../core/leads/imports-view';
import { leadAccountSchema, leadPullSchema } from '../../../core/leads/forms-view';
import { answersQuerySchema, qualityGivenSchema, workingHoursSchema } from '../../../core/leads/answers-view';
import { dryRunSchema } from '../../../core/leads/writes-view';
import { pairSchema } from '../../../core/leads/records-view';
import {
  mailSettingsSchema,
  mailStopEndSchema,
  mailStopSchema,
  mailTestSchema,
} from '../../../core/leads/routines/mail-set-up-schema';
import {
  mailGivenSchema,
  mailRetireSchema,
  mailShowSchema,
  routineDoSchema,
  routineGivenSchema,
  routineRunSchema,
  routineRunsSchema,
  routineTakesSchema,
  routineTrySchema,
  unsureSchema,
} from '../../../core/leads/routines/schema';
import { segmentEffectSchema, segmentGivenSchema, segmentRetireSchema } from '../../../core/leads/segments/schema';
import { leadListSchema } from '../../../core/leads/schema';
import { does, reads, readsBy, takes, takesFileBy, type Endpoint } from '../endpoint';

const leadColumns = {
  company: 'company',
  name: 'name',
  cameFrom: 'came from',
  campaign: 'campaign',
  clickId: 'click ID',
  form: 'form',
  sentAt: 'enquired',
  crmDeal: 'CRM number',
  stage: 'stage',
  quality: 'answered',
  qualityReason: 'reason',
  answeredAt: 'first answered',
  lastHop: 'last hop',
  why: 'why',
};

export const leads: Endpoint[] = [
  reads('/leads/records', ({ records }, { membership }) => records.view(membership)),
  takes('/leads/records/pairs', pairSchema, ({ records }, { membership, person, body }) =>
    records.setPair(membership, person.name, body),
  ),
  readsBy('/leads/answers', answersQuerySchema, ({ answers }, { membership, query }) =>
    answers.view(membership, query),
  ),
  takes('/leads/answers/hours', workingHoursSchema, ({ answers }, { membership, body }) =>
    answers.setHours(membership, body),
  ),
  takes('/leads/quality', qualityGivenSchema, ({ answers }, { membership, person, body }) =>
    answers.setQuality(membership, person.name, body),
  ),
  reads('/leads/segments', ({ segments }, { membership }) => segments.view(membership)),
  takes('/leads/segments', segmentGivenSchema, ({ segments }, { membership, person, body }) =>
    segments.save(membership, person.name, body),
  ),
  takes('/leads/segments/effect', segmentEffectSchema, ({ segments }, { membership, body }) =>
    segments.effect(membership, body.id, body.means),
  ),
  takes('/leads/segments/retire', segmentRetireSchema, ({ segments }, { membership, body }) =>
    segments.retire(membership, body.id, body.retired),
  ),
  reads('/leads/routines', ({ routines }, { membership }) => routines.view(membership)),
  takes('/leads/routines', routineGivenSchema, ({ routines }, { membership, body }) => routines.save(membership, body)),
  takes('/leads/routines/act', routineDoSchema, ({ routines }, { membership, body }) => routines.act(membership, body)),
  takes('/leads/routines/effect', routineTakesSchema, ({ routines }, { membership, body }) =>
    routines.effect(membership, body.takes),
  ),
  takes('/leads/routines/try', routineTrySchema, ({ routines }, { membership, body }) =>
    routines.tryOn(membership, body),
  ),
  readsBy('/leads/routines/runs', routineRunsSchema, ({ runs }, { membership, query }) =>
    runs.read(membership, query.id),
  ),
  takes('/leads/routines/runs/end', routineRunSchema, ({ runs }, { membership, person, body }) =>
    runs.letGo(membership, person.name, body.run),
  ),
  takes('/leads/routines/unsure', unsureSchema, ({ runs }, { membership, person, body }) =>
    runs.resolveUnsure(membership, person.name, body.act, body.arrived),
  ),
  reads('/leads/emails', ({ mailTemplates }, { membership }) => mailTemplates.view(membership)),
  takes('/leads/emails', mailGivenSchema, ({ mailTemplates }, { membership, body }) =>
    mailTemplates.save(membership, body),
  ),
  takes('/leads/emails/retire', mailRetireSchema, ({ mailTemplates }, { membership, body }) =>
    mailTemplates.retire(membership, body.id, body.retired),
  ),
  takes('/leads/emails/show', mailShowSchema, ({ mailTemplates }, { membership, body }) =>
    mailTemplates.show(membership, body),
  ),
  takes('/leads/emails/try', mailShowSchema, ({ mailTemplates }, { membership, person, body }) =>
    mailTemplates.sendToMe(membership, person.mail, body),
  ),
  reads('/leads/emails/set-up', ({ mailSetUp }, { membership }) => mailSetUp.view(membership)),
  takes('/leads/emails/set-up', mailSettingsSchema, ({ mailSetUp }, { membership, body }) =>
    mailSetUp.save(membership, body),
  ),
  takes('/leads/emails/set-up/try', mailTestSchema, ({ mailSetUp }, { membership, body }) =>
    mailSetUp.test(membership, body.to),
  ),
  does('/leads/emails/secret', ({ mailSetUp }, { membership }) => mailSetUp.makeSecret(membership)),
  takes('/leads/emails/stops', mailStopSchema, ({ mailSetUp }, { membership, person, body }) =>
    mailSetUp.addStop(membership, person.name, body.address),
  ),
  takes('/leads/emails/stops/end', mailStopEndSchema, ({ mailSetUp }, { membership, body }) =>
    mailSetUp.endStop(membership, body.hash),
  ),
  reads('/leads/calls', ({ calls }, { membership }) => calls.view(membership)),
  takes('/leads/calls', callGivenSchema, ({ calls }, { membership, body }) => calls.add(membership, body)),
  does('/leads/calls/file', ({ calls }, { membership, request }) => calls.readFile(membership, request)),
  takes('/leads/calls/numbers', callNumberSchema, ({ calls }, { membership, body }) =>
    calls.saveNumber(membership, body),
  ),
  takes('/leads/calls/numbers/retire', callNumberIdSchema, ({ calls }, { membership, body }) =>
    calls.retireNumber(membership, body.id, body.retired),
  ),
  reads('/leads/calls/set-up', ({ calls }, { membership }) => calls.setUp(membership)),
  takes('/leads/calls/set-up', callSettingsSchema, ({ calls }, { membership, body }) =>
    calls.setSettings(membership, body),
  ),
  does('/leads/calls/secret', ({ calls }, { membership }) => calls.makeSecret(membership)),
  reads('/leads/import', ({ imports }, { membership }) => imports.view(membership)),
  takes('/leads/import', importGivenSchema, ({ imports }, { membership, body }) => imports.add(membership, body)),
  takesFileBy('/leads/import/file', importHowSchema, ({ imports }, { membership, query, request }) =>
    imports.readFile(membership, query, request),
  ),
  reads('/leads/forms', ({ leadForms }, { membership }) => leadForms.view(membership)),
  takes('/leads/forms', leadPullSchema, ({ leadForms }, { membership, person, body }) =>
    leadForms.begin(membership, person.name, body),
  ),
  takes('/leads/forms/end', leadAccountSchema, ({ leadForms }, { membership, body }) =>
    leadForms.end(membership, body.account),
  ),
  does('/leads/forms/again', ({ leadForms }, { membership }) => leadForms.askAgain(membership)),
  readsBy('/leads/forms/links', leadAccountSchema, ({ leadForms }, { membership, query }) =>
    leadForms.links(membership, query.account),
  ),
  takes('/leads/forms/links', leadAccountSchema, ({ leadForms }, { membership, body }) =>
    leadForms.tagLinks(membership, body.account),
  ),
  reads('/leads/writes', ({ writes }, { membership }) => writes.view(membership)),
  takes('/leads/writes/effect', dryRunSchema, ({ writes }, { membership, body }) =>
    writes.dryRun(membership, body.rules),
  ),
  does('/leads/writes/now', ({ writes }, { membership, person }) => writes.writeNow(membership, person.name)),
  reads('/leads/repair', ({ repair }, { membership }) => repair.view(membership)),
  does('/leads/repair', ({ repair }, { membership, person }) => repair.repair(membership, person.name)),
  readsBy('/leads', leadListSchema, ({ leads }, { membership: { business, role }, query }) =>
    leads.page(business, role, query),
  ),
  readsBy('/leads.csv', leadListSchema, ({ files, leads }, { membership: { business, role }, query, drained }) =>
    files.writeList('leads', leads.all(business, role, { ...query, page: 1 }), leadColumns, drained),
  ),
  does('/leads/{enquiry}/note', ({ traces }, { membership, person, params }) =>
    traces.writeNote(membership, person.name, params.enquiry!),
  ),
  does('/leads/{enquiry}/erase', ({ erase }, { membership, params }) => erase.ofEnquiry(membership, params.enquiry!)),
  readsBy('/leads.xlsx', leadListSchema, ({ files, leads }, { membership: { business, role }, query }) =>
    files.writeBook('leads', leads.all(business, role, { ...query, page: 1 }), leadColumns),
  ),
  reads('/leads/{enquiry}/person.json', ({ personExport }, { membership, params }) =>
    personExport.ofEnquiry(membership, params.enquiry!),
  ),
  reads('/leads/{enquiry}', ({ traces }, { membership: { business, role }, params }) =>
    traces.ofEnquiry(business, role, params.enquiry!),
  ),
];
