import { brokenWords, isBroken } from '../../core/connections/broken';
import type { AccountView, KindView } from '../../core/connections/view';
import type { ReleaseContent } from '../../core/releases';
import { nowMs } from '../clock';
import type { Account } from '../platforms/accounts';

/** A kind whose description was taken out: its accounts are kept, and told nothing. */
export const undescribed = (kind: string): KindView => ({
  kind,
  words: `${kind}, which nothing describes any more`,
  does: 'platform',
  isOwn: true,
  isLive: false,
  sendsWebhooks: false,
  takesFiles: false,
});

/** What every connection's own view says. */
export function toView(account: Account, kind: KindView): Omit<AccountView, 'hook' | 'did' | 'usedFor'> {
  const { id, key, name, endpoint, settings, secrets, askedAt, answerStatus, answerSaid } = account;
  return {
    id,
    key,
    name,
    endpoint,
    kind: kind.kind,
    does: kind.does,
    kindWords: kind.words,
    timeZone: settings.timeZone ?? 'UTC',
    currency: settings.currency ?? '',
    state: stateWords(account),
    since: (account.retiredAt ?? account.pausedAt ?? account.createdAt).toISOString(),
    hasToken: secrets.token !== '',
    last: askedAt ? { at: askedAt.toISOString(), status: answerStatus, said: answerSaid } : null,
    workedAt: account.workedAt?.toISOString() ?? null,
    broken: account.pausedAt || account.retiredAt ? null : brokenOf(account),
  };
}

export const stateWords = ({ pausedAt, retiredAt }: Pick<Account, 'pausedAt' | 'retiredAt'>): AccountView['state'] =>
  retiredAt ? 'retired' : pausedAt ? 'paused' : 'in use';

export const brokenOf = ({
  name,
  answerStatus: status,
  brokenAt,
}: Pick<Account, 'name' | 'answerStatus' | 'brokenAt'>) =>
  isBroken({ status, brokenAt: brokenAt?.getTime() ?? null }, nowMs()) ? brokenWords(status, name) : null;

/** What the live rules use an account for. */
export const usedFor = ({ key }: Account, { telling, crm, events }: ReleaseContent): string[] => [
  ...events.wires.filter(({ account }) => account === key).map(({ event }) => event),
  ...telling.filter(({ account }) => account === key).map(({ outcome }) => outcome),
  ...(crm?.account === key ? ['leads'] : []),
];
