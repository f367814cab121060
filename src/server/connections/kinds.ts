import type { KindView } from '../../core/connections/view';
import { crmContractOf, crmKinds } from '../../core/crms';
import { destinationKinds, destinationOf } from '../../core/destinations';
import { contractOf, platformKinds } from '../../core/platforms';
import type { ReleaseContent } from '../../core/releases';

/** What a kind of account does; null where there is no such kind. */
export function kindOf(kind: string, content: Pick<ReleaseContent, 'platforms' | 'crms'>): KindView | null {
  const platform = contractOf(kind, content.platforms);
  if (platform) {
    const isOwn = !platformKinds.some((one) => one.kind === kind);
    // One that brings no clicks takes events alone.
    const does = platform.clickParameter === '' ? 'destination' : 'platform';
    const takesFiles = platform.takesFiles ?? false;
    return { kind, words: platform.words, does, isOwn, isLive: true, sendsWebhooks: false, takesFiles };
  }
  const destination = destinationOf(kind, []);
  if (destination)
    return {
      kind,
      words: destination.words,
      does: 'destination',
      isOwn: false,
      isLive: true,
      sendsWebhooks: false,
      takesFiles: false,
    };
  const crm = crmContractOf(kind, content.crms);
  if (!crm) return null;
  const isOwn = !crmKinds.some((one) => one.kind === kind);
  return {
    kind,
    words: crm.words,
    does: 'crm',
    isOwn,
    isLive: true,
    sendsWebhooks: crm.webhook !== null,
    takesFiles: false,
  };
}

/** Every kind that an account can be of: those that ship, and those of the draft. */
export function kindsOf(live: ReleaseContent, edited: ReleaseContent): KindView[] {
  const kinds = [
    ...platformKinds.map(({ kind }) => kind),
    ...edited.platforms.map(({ kind }) => kind),
    ...destinationKinds.map(({ kind }) => kind),
    ...crmKinds.map(({ kind }) => kind),
    ...edited.crms.map(({ kind }) => kind),
  ];
  return kinds.flatMap((kind) => {
    const known = kindOf(kind, edited);
    return known ? [{ ...known, isLive: kindOf(kind, live) !== null }] : [];
  });
}
