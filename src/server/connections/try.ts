import type { TryView } from '../../core/connections/view';
import { crmContractOf } from '../../core/crms';
import { brokenWords } from '../../core/connections/broken';
import { readPointer } from '../../core/capture/pointer';
import { AvrixError } from '../../core/errors';
import type { OutgoingRequest } from '../../core/outgoing';
import { destinationOf, type DestinationContract, type EventRow } from '../../core/destinations';
import { contractOf, type BatchAnswer, type PlatformContract, type TellingRow } from '../../core/platforms';
import { readJson } from '../../core/platforms/read-json';
import { counted } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { folderOf } from '../files/folders';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import type { Account } from '../platforms/accounts';
import { carryOut, ServiceAway, writeCall } from '../platforms/call';
import { requireEditor, type Draft } from '../releases/draft';
import type { Connections } from './connections';

/** As much of an answer as a page shows. */
const shownBytes = 4000;
/** In place of a key, wherever what was sent is shown. */
const hiddenKey = '••••••';

/** Tries accounts: one pretend row to a platform, one question to a CRM. Nothing of it is counted or kept. */
export function makeTryAccounts(context: Context, connections: Connections, draft: Draft) {
  return {
    /**
     * @param words what a pretend row says: a click ID and an outcome, '' for made-up ones
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_NOTHING_TO_TRY
     */
    async tryOut(membership: Membership, id: string, words: { clickId: string; outcome: string }): Promise<TryView> {
      requireEditor(membership);
      const account = await connections.accountOf(membership, id);
      const { draft: edited } = await draft.content(account.businessId);
      const platform = contractOf(account.kind, edited.platforms);
      const told = edited.telling.find((rule) => rule.account === account.key);
      const outcome = words.outcome || told?.as || told?.outcome || '';
      const destination = destinationOf(account.kind, edited.platforms);
      if (destination?.toldOf === 'every event') return tryDestination(account, destination);
      if (platform) return tryPlatform(account, platform, { ...words, outcome }, membership.business.currency);
      const crm = crmContractOf(account.kind, edited.crms);
      const request =
        crm?.gives === 'numbers' ? crm.stages.request : crm?.list ? crm.list.first(nowMs() - 7 * 86_400_000) : null;
      if (!crm || !request) throw new AvrixError('AVX_NOTHING_TO_TRY', { name: account.name });
      return call(account, crm.authorised, request, (body) => {
        if (crm.gives === 'numbers') {
          const { inOrder, ended } = crm.stages.read(body);
          return {
            isGood: true,
            means: `It answers, with ${counted(inOrder.length + ended.length, 'stage', 'stages')}.`,
          };
        }
        const found = readPointer(body, crm.list!.recordsAt);
        return Array.isArray(found)
          ? {
              isGood: true,
              means: `It answers, with ${counted(found.length, 'record', 'records')} of the last 7 days.`,
            }
          : {
              isGood: false,
              means: `Its answer has no list at ${crm.list!.recordsAt || 'the whole of it'}. Correct where the records are.`,
            };
      });
    },
    tryRow,
  };

  function tryPlatform(
    account: Account,
    contract: PlatformContract,
    words: { clickId: string; outcome: string },
    currency: string,
  ): Promise<TryView> {
    return tryRow(account, contract, {
      eventId: newId(),
      key: { kind: 'click_id', value: words.clickId || 'avrix-try' },
      outcome: words.outcome || contract.knows?.[0] || 'TRY-OUT',
      happenedAt: nowMs(),
      worth: { minor: 0, currency: account.settings.currency || currency },
    });
  }

  /** Sends one row: as a test, where the platform takes some. */
  async function tryRow(account: Account, contract: PlatformContract, row: TellingRow): Promise<TryView> {
    const { writeBatch, readAnswer } = contract.tests ?? contract;
    const folder = folderOf(account.endpoint);
    if (folder !== null) return tryFolder(account, folder, writeBatch([row]));
    return call(account, contract.authorised, writeBatch([row]), null, (answer) =>
      meaningOf(readAnswer(answer, [row]), account, contract.tests ? 'test' : 'row'),
    );
  }

  /** Looks whether a file could be put there; whoever takes files from it finds none. */
  async function tryFolder(account: Account, folder: string, { path, file }: OutgoingRequest): Promise<TryView> {
    const why = await context.folders.whyNot(account.businessId, folder);
    return {
      request: { method: 'PUT', address: account.endpoint + path, headers: {}, body: file?.text ?? '' },
      answer: { status: why === '' ? 'can be written' : 'cannot be written', body: why },
      isGood: why === '',
      means:
        why === ''
          ? 'Files can be put into the folder. None was, so that nobody takes a pretend one.'
          : 'No file can be put into the folder. Whoever runs Avrix can change that.',
    };
  }

  function tryDestination(account: Account, contract: DestinationContract): Promise<TryView> {
    const row: EventRow = {
      eventId: `try.${newId()}`,
      name: contract.named.example,
      happenedAt: nowMs(),
      fields: [['try', 'avrix']],
      clickId: '',
    };
    return call(
      account,
      contract.authorised,
      contract.writeBatch([row], account.settings.currency ?? ''),
      null,
      (answer) => meaningOf(contract.readAnswer(answer, [row]), account, 'event'),
    );
  }

  /** What an answer to something pretended means. */
  function meaningOf(said: BatchAnswer, account: Account, what: 'row' | 'event' | 'test'): Meaning {
    const pretended = what === 'test' ? 'row' : what;
    if (said.kind === 'rows') {
      const one = said.rows[0];
      if (!one) return { isGood: false, means: `It answered, and said nothing of the ${pretended}.` };
      return one.taken
        ? {
            isGood: true,
            means:
              what === 'test'
                ? 'It would take the pretend row. It was asked as a test, so it counted nothing.'
                : `It took the pretend ${what}. Take it out there if it counts it.`,
          }
        : {
            isGood: true,
            means: `It answers for ${pretended}s; of this pretend one it said “${one.answer}”.`,
          };
    }
    if (said.kind === 'refused')
      return {
        isGood: false,
        means: `It refused the call as a whole (${said.status}). Compare what was sent with what it wants.`,
      };
    const broken = brokenWords(said.status, account.name);
    return said.status === 'answer not understood'
      ? {
          isGood: false,
          means: 'It answered something that this description does not read. Correct what its answer means.',
        }
      : { isGood: false, means: `${broken.was}. ${broken.fix}` };
  }

  type Meaning = Pick<TryView, 'isGood' | 'means'>;
  async function call(
    account: Account,
    authorised: PlatformContract['authorised'],
    request: OutgoingRequest,
    readBody: ((body: unknown) => Meaning) | null,
    readAnswer?: (answer: { status: number; headers: Record<string, string>; body: string }) => Meaning,
  ): Promise<TryView> {
    // A signature is no secret; the key itself is.
    const isSigned = typeof authorised === 'object' && authorised.signs;
    const token = isSigned ? account.secrets.token : account.secrets.token && hiddenKey;
    const sent = writeCall({ ...account, secrets: { ...account.secrets, token } }, authorised, request);
    const shown: TryView['request'] = {
      method: sent.method,
      address: sent.url.replaceAll(encodeURIComponent(hiddenKey), hiddenKey),
      headers: sent.headers,
      body: sent.body ?? '',
    };
    try {
      const answer = await carryOut(context, account, authorised, request);
      const body = answer.body.slice(0, shownBytes);
      const status = String(answer.status);
      if (readAnswer) return { request: shown, answer: { status, body }, ...readAnswer(answer) };
      const isGood = answer.status >= 200 && answer.status < 300;
      if (!isGood) {
        const { was, fix } = brokenWords(status, account.name);
        return { request: shown, answer: { status, body }, isGood, means: `${was}. ${fix}` };
      }
      const read = readJson(answer.body);
      if (read === undefined)
        return {
          request: shown,
          answer: { status, body },
          isGood: false,
          means: 'Its answer is no JSON. Is this the address of its API?',
        };
      return { request: shown, answer: { status, body }, ...means(() => readBody!(read)) };
    } catch (error) {
      if (!(error instanceof ServiceAway)) throw error;
      const { was, fix } = brokenWords(error.status, account.name);
      const why = error.message.replace(`${account.name}: `, '');
      return {
        request: shown,
        answer: { status: error.status, body: why },
        isGood: false,
        means: `${was}: ${why}. ${fix}`,
      };
    }
  }

  function means(read: () => Meaning): Meaning {
    try {
      return read();
    } catch {
      return {
        isGood: false,
        means: 'Its answer is JSON, and not what this kind of CRM answers. Is this the right address?',
      };
    }
  }
}
