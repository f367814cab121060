/** How an account's service last answered. Times in ms. */
export interface LastAnswer {
  /** An HTTP status, or what happened in words; '' before the first call. */
  status: string;
  /** Since when it has not done what it was asked for; null while it does. */
  brokenAt: number | null;
}

/** A service that is away for a moment is no broken connection. */
const patience = 10 * 60_000;

/** Statuses that a service gives whoever asks it rightly: what it was asked for may be wrong, the connection is not. */
const answersAll = new Set(['400', '409', '413', '422', '429']);

/**
 * Whether an answer shows that a connection works.
 * @param hasWorked whether it ever did: a record that is gone is answered by 404 as well as a wrong address is
 */
export const countsAsWorking = (status: string, method: string, hasWorked: boolean): boolean =>
  /^2\d\d$/.test(status) || answersAll.has(status) || (/^(404|410)$/.test(status) && method === 'GET' && hasWorked);

/** Whether a connection is broken: its key or address was refused, or it has not answered for a while. */
export const isBroken = ({ status, brokenAt }: LastAnswer, now: number): boolean =>
  brokenAt !== null && (/^(401|403|404|405|410)$/.test(status) || status === 'not sent' || now - brokenAt >= patience);

/** What is wrong with a connection and what to do about it, by the status of its last answer. */
export function brokenWords(status: string, name: string): { was: string; fix: string } {
  if (/^(401|403)$/.test(status))
    return { was: `${name} refuses the key (${status})`, fix: `Make a new key at ${name} and replace the one here.` };
  if (/^(404|405|410)$/.test(status))
    return { was: `${name} has nothing at this address (${status})`, fix: 'Correct the address, then try it.' };
  if (status === 'not sent')
    return {
      was: `${name} could not be reached at all`,
      fix: 'Correct the address, or ask your operator whether it may be called.',
    };
  if (/^5\d\d$/.test(status))
    return {
      was: `${name} answers with an error of its own (${status})`,
      fix: 'Nothing is lost: it is asked again by itself.',
    };
  if (/^3\d\d$/.test(status))
    return { was: `${name} sends on to another address (${status})`, fix: 'Enter the address that it sends on to.' };
  return {
    was: `${name} does not answer as it should (${status})`,
    fix: 'Nothing is lost: it is asked again by itself.',
  };
}
