import type { AccountView, ConnectionsView } from '../../core/connections/view';
import { counted } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { PickList, type Item } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { NewRule } from '../../ui/rule/RuleStation';
import { ConnectionsFrame } from './ConnectionsFrame';
import { AccountSheet } from './AccountSheet';
import { NewAccountSheet } from './NewAccountSheet';
import { WebsitesSheet } from './WebsitesSheet';

interface Props {
  business: string;
  initial: ConnectionsView;
  search: string;
}

const websites = 'websites';
const betweenReads = 5000;

/** A business's websites, the platforms it tells and the CRM it reads: each with what it last did. */
export function ConnectionsPage(props: Props) {
  return (
    <Live>
      <Connections {...props} />
    </Live>
  );
}

const kindWords = { platform: 'Platform', destination: 'Takes events', crm: 'CRM' };

/** What an account does lately, in a few words. */
function underOf({ state, broken, did, does, last }: AccountView): string {
  if (state !== 'in use') return state;
  if (broken) return 'broken';
  if (did.count > 0)
    return does === 'crm' ? counted(did.count, 'record', 'records') : `told ${counted(did.count, 'row', 'rows')}`;
  return last ? 'answers; nothing yet' : 'not tried yet';
}

function Connections({ business, initial, search }: Props) {
  const api = `/api/b/${business}/connections`;
  const view = useView(api, initial, betweenReads);
  const open = useOpen('open', search, ['kind']);
  const order = { platform: 0, destination: 1, crm: 2 };
  const accounts = [...view.accounts].sort(
    (a, b) => Number(a.state === 'retired') - Number(b.state === 'retired') || order[a.does] - order[b.does],
  );
  const unseen = view.websites.filter(({ seenAt }) => seenAt === null).length;
  const items: Item[] = [
    {
      id: websites,
      href: open.href(websites),
      words: 'Websites',
      under:
        unseen > 0
          ? `${counted(unseen, 'website', 'websites')} not seen yet`
          : `${counted(view.websites.length, 'website', 'websites')}, seen`,
    },
    ...accounts.map((account) => ({
      id: account.id,
      href: open.href(account.id),
      words: account.name,
      under: `${kindWords[account.does]}, ${underOf(account)}`,
    })),
  ];
  const account = accounts.find(({ id }) => id === open.id);
  const current = open.isNew ? '' : (account?.id ?? websites);
  return (
    <ConnectionsFrame
      business={business}
      section="Connections"
      sentence={view.sentence}
      actions={view.mayChange && <NewRule words="Connect a platform or CRM" open={open} />}
    >
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[270px_1fr]">
        <PickList
          label="Connections"
          items={items}
          current={current}
          onPick={(id) => open.pick(id)}
          fresh={open.isNew ? 'New connection' : null}
        />
        {open.isNew ? (
          <NewAccountSheet business={business} view={view} search={search} onDone={(id) => open.pick(id)} />
        ) : account ? (
          <AccountSheet key={account.id} business={business} view={view} account={account} />
        ) : (
          <WebsitesSheet business={business} view={view} />
        )}
      </div>
    </ConnectionsFrame>
  );
}
