import type { ConnectionsView } from '../../core/connections/view';
import { ownContract } from '../../core/platforms/own';
import type { OwnPlatform } from '../../core/platforms/schema';
import { TryBox } from './TryBox';

/** A made-up row, as it is shown where nothing was recorded that could be. */
const example = {
  eventId: '0198c0de-0000-7000-8000-000000000001',
  key: { kind: 'click_id' as const, value: 'Ab12Cd34' },
  outcome: 'FLT-QUAL',
  happenedAt: Date.UTC(2027, 1, 15, 9, 42),
  worth: { minor: 54_000, currency: 'GBP' },
  fields: [['bikes', '3']] as const,
};

/** What an own platform is sent, as it is written on the screen, and trying it at a connected account. */
export function PlatformPreview({
  business,
  view,
  rule,
  isNew,
}: {
  business: string;
  view: ConnectionsView;
  rule: OwnPlatform;
  isNew: boolean;
}) {
  const { authorised, writeBatch } = ownContract(rule);
  const { method, path, headers, body, file } = writeBatch([example]);
  const accounts = view.accounts.filter(({ kind, state }) => kind === rule.kind && state === 'in use');
  const isKept = rule.clickParameters.length === 0 || view.clickIdsKept.includes(rule.kind);
  const lines = [
    `${method} ${path || '/'}`,
    ...(authorised === 'path'
      ? []
      : [
          `${rule.telling.token.header}: ${rule.telling.token.before}${rule.telling.token.signs ? 'the signature' : '••••••'}`,
        ]),
    ...Object.entries(headers ?? {}).map(([name, value]) => `${name}: ${value}`),
    ...(body === undefined ? [] : ['', JSON.stringify(body, null, 2)]),
    ...(file ? [`content-type: ${file.type}`, '', file.text] : []),
  ];
  return (
    <>
      <section className="sheet p-4" aria-label="What it is sent">
        <h2 className="text-base">What it is sent</h2>
        <p className="text-quiet mt-1 text-[13px]">with a made-up row</p>
        <pre className="value bg-base-200 mt-2 max-h-96 overflow-auto rounded-[5px] p-2 text-[12px] whitespace-pre-wrap [overflow-wrap:anywhere]">
          {lines.join('\n')}
        </pre>
      </section>
      {!isNew && (
        <section className="sheet" aria-label="Next">
          <div className="px-4 pt-4 pb-2">
            <h2 className="text-base">{accounts.length === 0 ? 'Next' : 'Try it'}</h2>
            <ol className="mt-1 list-decimal space-y-1 pl-5">
              {accounts.length === 0 && (
                <li>
                  <a className="quiet-link" href={`/b/${business}/connections?new=yes&kind=${rule.kind}`}>
                    Connect an account of {rule.words}
                  </a>{' '}
                  with its address and key; then it can be tried.
                </li>
              )}
              {!isKept && (
                <li>
                  <a className="quiet-link" href={`/b/${business}/capture/kept`}>
                    Keep its click ID
                  </a>{' '}
                  on your pages.
                </li>
              )}
              {accounts.length > 0 && rule.clickParameters.length === 0 && (
                <li>
                  <a className="quiet-link" href={`/b/${business}/events`}>
                    Say which events it is told of
                  </a>
                  .
                </li>
              )}
              {accounts.length > 0 && rule.clickParameters.length > 0 && (
                <li>
                  <a className="quiet-link" href={`/b/${business}/report-backs`}>
                    Say which outcomes it is told of
                  </a>
                  .
                </li>
              )}
            </ol>
          </div>
          {accounts.map((account) => (
            <TryBox key={account.id} api={`/api/b/${business}/connections/accounts/${account.id}`} account={account} />
          ))}
        </section>
      )}
    </>
  );
}
