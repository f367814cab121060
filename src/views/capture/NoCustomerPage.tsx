import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { NoCustomerRule } from '../../core/capture/no-customer';
import type { NoCustomerView, PastPreview } from '../../core/capture/station-view';
import { sameRule } from '../../core/rules/same';
import { listIn } from '../../core/rules/says';
import { markWords } from '../../core/reasons/words';
import { count, counted } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live, pageRead } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { Copy } from '../../ui/text/Copy';
import { readJson, sendJson } from '../../ui/text/read';
import { CaptureFrame } from './CaptureFrame';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: NoCustomerView;
}

const lists: { key: keyof NoCustomerRule; words: string; example: string }[] = [
  { key: 'networks', words: 'People from these networks', example: '203.0.113.0/24' },
  { key: 'mailDomains', words: 'People with an email address at', example: 'larkmoor.example' },
  { key: 'hosts', words: 'Everything on these hosts', example: 'staging.larkmoor.example' },
];

/** Who and what is no customer: one list, what it marks, and its use on what was recorded before. */
export function NoCustomerPage(props: Props) {
  return (
    <Live>
      <NoCustomer {...props} />
    </Live>
  );
}

function NoCustomer({ business, initial }: Props) {
  const view = useView(`/api/b/${business}/capture/no-customer`, initial);
  return (
    <CaptureFrame business={business} section="Not customers" view={view}>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_380px]">
        <div className="flex min-w-0 flex-col gap-4">
          <List business={business} view={view} />
          <section className="sheet p-5" aria-label="My browser">
            <div className="flex items-start justify-between gap-4">
              <div>
                <h2 className="text-base">My own browser</h2>
                <p className="text-quiet mt-1">
                  Open this once in it, and everything it does is marked from then on. With{' '}
                  <code className="value">no</code> for <code className="value">yes</code> the mark goes.
                </p>
              </div>
              <Copy text={view.link} words="Copy the link" />
            </div>
            <code className="value mt-2 block [overflow-wrap:anywhere]">{view.link}</code>
          </section>
        </div>
        <div className="flex min-w-0 flex-col gap-4">
          <Marked business={business} view={view} />
          <Past business={business} view={view} />
        </div>
      </div>
    </CaptureFrame>
  );
}

function List({ business, view }: { business: string; view: NoCustomerView }) {
  const { rule, edit, isChanged, bar } = useRuleEditor({
    business,
    kind: 'no_customer' as const,
    stored: view.rule,
    start: view.rule,
    changed: view.changed,
  });
  return (
    <section className="sheet" aria-label="No customers">
      <p className="px-5 pt-4 text-[17px]">Also leave out:</p>
      <div className="grid grid-cols-1 gap-4 px-5 py-4 md:grid-cols-3">
        {lists.map(({ key, words, example }) => (
          <Lines
            key={key}
            words={words}
            example={example}
            values={rule[key]}
            disabled={!view.mayChange}
            onEdit={(values) => edit({ [key]: values })}
          />
        ))}
      </div>
      <p className="text-quiet px-5 pb-4">One in each line. A visitor’s own IP address is compared and never stored.</p>
      {view.mayChange && (isChanged || bar.inDraft) && <DraftBar {...bar} changed={isChanged} />}
    </section>
  );
}

/** Values, one in each line; what is typed stays as it is typed. */
function Lines({
  words,
  example,
  values,
  disabled,
  onEdit,
}: {
  words: string;
  example: string;
  values: string[];
  disabled: boolean;
  onEdit: (values: string[]) => void;
}) {
  const [text, setText] = useState(() => values.join('\n'));
  // What came from elsewhere, such as Undo, takes the place of what was typed.
  const shown = sameRule(linesIn(text), values) ? text : values.join('\n');
  return (
    <label className="block">
      <span className="block font-semibold">{words}</span>
      <textarea
        className="field value mt-1 w-full"
        rows={Math.max(4, values.length + 1)}
        value={shown}
        placeholder={example}
        disabled={disabled}
        spellCheck={false}
        onChange={(event) => {
          setText(event.target.value);
          onEdit(linesIn(event.target.value));
        }}
      />
    </label>
  );
}
const linesIn = (text: string) => listIn(text, { oneWord: true, tidy: (one) => one.toLowerCase() });

/** How much is marked, by why; each number opens its strands. */
function Marked({ business, view }: { business: string; view: NoCustomerView }) {
  const addressOf = (mark: string) =>
    `/b/${business}/strands?${new URLSearchParams({ range: 'own', ...view.days, mark })}`;
  const columns: Column<NoCustomerView['marked'][number]>[] = [
    { id: 'mark', head: `Marked in ${view.weeks} weeks`, cell: ({ mark }) => markWords[mark] },
    {
      id: 'strands',
      head: 'Clicks',
      by: ({ strands }) => strands,
      right: true,
      cell: ({ mark, strands }) => (
        <a className="quiet-link" href={addressOf(mark)}>
          {count(strands)}
        </a>
      ),
    },
    {
      id: 'enquiries',
      head: 'Enquiries',
      by: ({ enquiries }) => enquiries,
      right: true,
      cell: ({ enquiries }) => count(enquiries),
    },
  ];
  return (
    <DataTable
      label="Marked"
      rows={view.marked}
      idOf={({ mark }) => mark}
      columns={columns}
      none="Nothing is marked."
    />
  );
}

/** The live list and what was recorded before it held: what using it there would mark, and the doing of it. */
function Past({ business, view }: { business: string; view: NoCustomerView }) {
  const api = `/api/b/${business}/capture/no-customer/past`;
  const client = useQueryClient();
  const apply = useMutation({
    mutationFn: () => sendJson(api, {}) as Promise<PastPreview>,
    onSuccess: () => client.invalidateQueries(),
  });
  const { data: past } = useQuery({ queryKey: [api], queryFn: () => readJson<PastPreview>(api), meta: pageRead });
  if (!past)
    return (
      <section className="sheet text-quiet p-5" aria-label="The past">
        Looking through what was recorded …
      </section>
    );
  const { hosts, mailDomains, visitors, enquiries } = past;
  const entries = [...hosts, ...mailDomains];
  return (
    <section className="sheet p-5" aria-label="The past">
      <h2 className="text-base">What was recorded before</h2>
      {entries.length === 0 ? (
        <p className="text-quiet mt-1">
          {apply.data
            ? `The list holds for everything ever recorded: ${counted(apply.data.visitors, 'visitor', 'visitors')} and ${counted(apply.data.enquiries, 'enquiry', 'enquiries')} are worked through again.`
            : 'Every host and mail domain that is live holds for everything ever recorded.'}
        </p>
      ) : (
        <>
          <p className="mt-1">
            {entries.map((entry, at) => (
              <span key={entry}>
                {at > 0 && ', '}
                <code className="value">{entry}</code>
              </span>
            ))}{' '}
            {entries.length === 1 ? 'holds' : 'hold'} from {entries.length === 1 ? 'its' : 'their'} release on.{' '}
            {visitors + enquiries === 0
              ? 'Nothing was recorded before that it would mark.'
              : `Before, ${counted(visitors, 'visitor was', 'visitors were')} on such a host, and ${counted(enquiries, 'enquiry', 'enquiries')} with such an address ${enquiries === 1 ? 'is' : 'are'} not marked.`}
          </p>
          {view.mayChange && (
            <button type="button" className="button mt-3" disabled={apply.isPending} onClick={() => apply.mutate()}>
              {visitors + enquiries === 0
                ? 'Apply to earlier records too'
                : `Mark ${counted(visitors + enquiries, 'earlier record', 'earlier records')}`}
            </button>
          )}
        </>
      )}
      <p className="text-quiet mt-2">Networks look ahead only: addresses of visitors are not stored.</p>
      {apply.error && (
        <p role="alert" className="text-error mt-2">
          <Words text={apply.error.message} />
        </p>
      )}
    </section>
  );
}
