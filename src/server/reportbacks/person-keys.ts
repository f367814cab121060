/* eslint-disable no-await-in-loop -- a few at a time, as the CRM answers; once it is away, nobody asks it again */
import type { PlatformContract } from '../../core/platforms';
import type { PersonKey } from '../../core/platforms/contract';
import type { Reason } from '../../core/reasons/codes';
import type { Context } from '../context';
import type { Crms } from '../crms/crm';
import { addressOf, readWhom } from '../leads/routines/whom';
import { ServiceAway } from '../platforms/call';
import type { Releases } from '../releases/releases';
import type { Telling } from './tellings';

/** What came of asking by what platforms know people. */
interface AskedKeys {
  /** Those with a key that can be told; what is told by a click had it before. */
  known: Telling[];
  nobody: { telling: Telling; reason: Reason }[];
  /** Those of whom the CRM could not be asked now. */
  away: { telling: Telling; error: ServiceAway }[];
}
export type AskKeys = (tellings: Telling[], contract: PlatformContract) => Promise<AskedKeys>;

/** Records that are asked for side by side. */
const atOnce = 6;

/**
 * Asks the CRM for the email address or telephone number of those who are told of without a click, and hashes it as the
 * platform's contract says. It is kept nowhere.
 */
export function makeAskKeys(context: Context, crms: Crms, releases: Releases): AskKeys {
  return async (tellings, contract) => {
    const isAsked = ({ key }: Telling) => key.kind !== 'click_id' && key.value === '';
    const result: AskedKeys = { known: tellings.filter((one) => !isAsked(one)), nobody: [], away: [] };
    const asked = tellings.filter(isAsked);
    for (let at = 0; at < asked.length; at += atOnce) {
      const [stopped] = result.away;
      const part = asked.slice(at, at + atOnce);
      if (stopped) result.away.push(...part.map((telling) => ({ telling, error: stopped.error })));
      else await Promise.all(part.map((telling) => askOne(telling, contract, result)));
    }
    return result;
  };

  async function askOne(telling: Telling, { hashes = {} }: PlatformContract, result: AskedKeys): Promise<void> {
    const by: PersonKey = telling.key.kind === 'mail_hash' ? 'mail' : 'telephone';
    const { businessId, subjectId } = telling.reportBack;
    try {
      const whom = await readWhom(context, businessId, subjectId, await releases.live(businessId));
      const value = whom ? (hashes[by]?.(await addressOf(context, crms, whom, by)) ?? '') : '';
      if (value === '') result.nobody.push({ telling, reason: { code: 'no_person_key', key: by } });
      else result.known.push({ ...telling, key: { kind: telling.key.kind, value } });
    } catch (error) {
      if (!(error instanceof ServiceAway)) throw error;
      result.away.push({ telling, error });
    }
  }
}

/** The same as it is kept with its attempt: without what names the person. */
export const withoutPerson = (telling: Telling): Telling =>
  telling.key.kind === 'click_id'
    ? telling
    : { ...telling, key: { kind: telling.key.kind, value: 'hashed, not kept' } };
