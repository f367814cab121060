import { AvrixError } from '../../../core/errors';
import {
  filedHowSchema,
  filedListSchema,
  filedNameSchema,
  writtenFileSchema,
} from '../../../core/outcomes/filed/schema';
import { outcomeRuleSchema, pretendSchema, testedPretendSchema } from '../../../core/outcomes/schema';
import {
  noticeListSchema,
  pastedSchema,
  retiredSenderSchema,
  savedSenderSchema,
  senderIdSchema,
} from '../../../core/outcomes/notices/schema';
import { mayChange } from '../../../core/people/rights';
import { compareQuerySchema, switchOverSchema } from '../../../core/reportbacks/compare-schema';
import { foundSchema } from '../../../core/reportbacks/answers';
import { brakeActSchema, queueListSchema, reportBackActSchema } from '../../../core/reportbacks/queue-schema';
import { does, reads, readsBy, takes, takesFileBy, type Endpoint } from '../endpoint';

const queueColumns = {
  words: 'of',
  outcome: 'outcome',
  account: 'told to',
  state: 'state',
  why: 'why',
  happenedAt: 'happened',
  dueAt: 'due',
  worth: 'worth',
};

const postbackColumns = {
  sender: 'sender',
  step: 'step',
  about: 'about',
  payment: 'payment',
  amount: 'amount',
  happenedAt: 'happened',
  stands: 'became',
};

/** The open form of offline conversions. */
const openColumns = {
  clickId: 'click_id',
  outcome: 'outcome',
  happenedAt: 'happened_at',
  amount: 'amount',
  currency: 'currency',
  order: 'order_id',
  change: 'change',
};

/** Of an answer file: what was sent, by the headings of the open form, and what became of it. */
const answerColumns = {
  row: 'row',
  clickId: 'click_id',
  outcome: 'outcome',
  happenedAt: 'happened_at',
  written: 'amount',
  currency: 'currency',
  order: 'order_id',
  change: 'change',
  answer: 'answer',
  why: 'why',
  standing: 'standing',
};

export const reportBacks: Endpoint[] = [
  reads('/outcomes', ({ outcomesStation }, { membership }) => outcomesStation.view(membership)),
  reads('/outcomes/names-told', async ({ outcomesStation }, { membership }) => ({
    names: await outcomesStation.namesTold(membership),
  })),
  takes('/outcomes/effect', outcomeRuleSchema, ({ outcomeEffect }, { membership, body }) =>
    outcomeEffect(membership, body),
  ),
  takes('/outcomes/pretend', pretendSchema, ({ pretend }, { membership, body }) => pretend.tryOut(membership, body)),
  takes('/outcomes/pretend/ask', testedPretendSchema, ({ pretend }, { membership, body: { account, ...given } }) =>
    pretend.ask(membership, given, account),
  ),
  readsBy('/report-backs', queueListSchema, ({ queue }, { membership, query }) => queue.page(membership, query)),
  readsBy('/report-backs.csv', queueListSchema, ({ files, queue }, { membership, query, drained }) => {
    const { business, role } = membership;
    return files.writeList('report-backs', queue.all(business, role, query), queueColumns, drained);
  }),
  readsBy('/report-backs/conversions.csv', queueListSchema, ({ files, queue }, { membership, query, drained }) =>
    files.writeList('conversions', queue.conversions(membership, query), openColumns, drained),
  ),
  readsBy('/report-backs/conversions.xlsx', queueListSchema, ({ files, queue }, { membership, query }) =>
    files.writeBook('conversions', queue.conversions(membership, query), openColumns),
  ),
  readsBy('/report-backs/compare', compareQuerySchema, ({ comparing }, { membership, query }) =>
    comparing.view(membership, query),
  ),
  takes('/report-backs/compare/switch', switchOverSchema, ({ comparing }, { membership, person, body: { of, at } }) =>
    comparing.switchOver(membership, person.id, of, at),
  ),
  takes('/report-backs/act', reportBackActSchema, ({ queue }, { membership, person, body }) =>
    queue.act(membership, person.name, body),
  ),
  takes('/report-backs/brake', brakeActSchema, ({ heldAsOne }, { membership, person, body }) =>
    heldAsOne.end(membership, person.name, body),
  ),
  readsBy('/report-backs/postbacks', noticeListSchema, ({ notices }, { membership, query }) =>
    notices.page(membership, query),
  ),
  readsBy('/report-backs/postbacks.csv', noticeListSchema, ({ files, notices }, { membership, query, drained }) => {
    const { business, role } = membership;
    return files.writeList('postbacks', notices.all(business, role, query), postbackColumns, drained);
  }),
  takes('/report-backs/postbacks/save', savedSenderSchema, ({ senders }, { membership, body }) =>
    senders.save(membership, body),
  ),
  takes('/report-backs/postbacks/secret', senderIdSchema, ({ senders }, { membership, body: { id } }) =>
    senders.makeSecret(membership, id),
  ),
  takes('/report-backs/postbacks/retire', retiredSenderSchema, ({ senders }, { membership, body: { id, retired } }) =>
    senders.retire(membership, id, retired),
  ),
  takes('/report-backs/postbacks/try', pastedSchema, ({ senders }, { membership, body: { sender, text } }) =>
    senders.tryOut(membership, sender, text),
  ),
  reads('/report-backs/postbacks/{sender}', ({ senders }, { membership, params }) =>
    senders.setUp(membership, params.sender!),
  ),
  reads('/report-backs/files', ({ filed }, { membership }) => filed.list(membership)),
  takesFileBy('/report-backs/files/bring', filedNameSchema, ({ filed }, { membership, person, query, request }) =>
    filed.bring(membership, person.name, query, request),
  ),
  readsBy('/report-backs/files/written', writtenFileSchema, ({ filed }, { membership, query: { folder, name } }) =>
    filed.written(membership, folder, name),
  ),
  reads('/report-backs/files/{file}', ({ filed }, { membership, params }) => filed.one(membership, params.file!)),
  readsBy('/report-backs/files/{file}/answers', filedListSchema, ({ filed }, { membership, params, query }) =>
    filed.one(membership, params.file!, query),
  ),
  takes('/report-backs/files/{file}/try', filedHowSchema, ({ filed }, { membership, params, body }) =>
    filed.tryOut(membership, params.file!, body),
  ),
  takes('/report-backs/files/{file}/take', filedHowSchema, ({ filed }, { membership, params, body }) =>
    filed.take(membership, params.file!, body),
  ),
  does('/report-backs/files/{file}/drop', ({ filed }, { membership, params }) => filed.drop(membership, params.file!)),
  readsBy(
    '/report-backs/files/{file}/answers.csv',
    filedListSchema,
    ({ files, filed }, { membership, params, query, drained }) =>
      files.writeList('answers', filed.answers(membership, params.file!, query), answerColumns, drained),
  ),
  readsBy(
    '/report-backs/files/{file}/answers.xlsx',
    filedListSchema,
    ({ files, filed }, { membership, params, query }) =>
      files.writeBook('answers', filed.answers(membership, params.file!, query), answerColumns),
  ),
  reads('/report-backs/{reportBack}', ({ queue }, { membership, params }) => queue.one(membership, params.reportBack!)),
  // A person says what stands in the platform about a report-back that is unsure.
  takes(
    '/report-backs/{reportBack}/found',
    foundSchema,
    ({ reportBacks: decisions }, { membership: { business, role }, person, params, body: { found } }) => {
      if (!mayChange(role)) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'change something' });
      return decisions.decide(business.id, params.reportBack!, found, person.name);
    },
  ),
];
