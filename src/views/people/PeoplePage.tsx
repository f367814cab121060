import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { rightsWords, type Rights } from '../../core/people/rights';
import { invitationSchema } from '../../core/people/schema';
import type { InvitationView, MemberView, PeopleView } from '../../core/people/view';
import { Confirm } from '../../ui/form/Confirm';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { ConnectionsFrame } from '../connections/ConnectionsFrame';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: PeopleView;
}

const roles = [
  ['owner', 'owner'],
  ['editor', 'editor'],
  ['reader', 'reader'],
] as const;
const flags = [
  ['mayRelease', 'may release'],
  ['seesPeople', 'sees people'],
  ['seesMoney', 'sees money'],
] as const;

/** Who has a role in a business, what each may do, and who is invited. */
export function PeoplePage(props: Props) {
  return (
    <Live>
      <People {...props} />
    </Live>
  );
}

function People({ business, initial }: Props) {
  const api = `/api/b/${business}/people`;
  const view = useView(api, initial);
  const [link, setLink] = useState<{ mail: string; link: string } | null>(null);
  return (
    <ConnectionsFrame business={business} section="People" sentence={view.sentence}>
      <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1.9fr_1fr]">
        <div className="flex min-w-0 flex-col gap-4">
          <Members business={business} api={api} view={view} />
          {view.invitations.length > 0 && <Invitations api={api} view={view} />}
        </div>
        {view.isOwner && (
          <div className="flex min-w-0 flex-col gap-4">
            {link && (
              <section className="sheet border-accent p-5" aria-label="The link">
                <h2 className="text-base">Send this link to {link.mail}; it works once, for 7 days.</h2>
                <p className="value mt-2 break-all" data-testid="invitation">
                  {link.link}
                </p>
                <p className="mt-3 flex gap-2">
                  <Copy text={link.link} words="Copy the link" />
                  <button type="button" className="button" onClick={() => setLink(null)}>
                    I have it
                  </button>
                </p>
              </section>
            )}
            <Invite api={api} onMade={(mail, made) => setLink({ mail, link: made })} />
          </div>
        )}
      </div>
    </ConnectionsFrame>
  );
}

function Members({ business, api, view }: { business: string; api: string; view: PeopleView }) {
  const client = useQueryClient();
  const done = () => client.invalidateQueries();
  const change = useMutation({
    mutationFn: ({ id, ...rights }: Rights & { id: string }) => sendJson(`${api}/${id}`, rights),
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: ({ id, isYou }: MemberView) =>
      sendJson(`${api}/${id}/remove`, {}).then(() => (isYou ? window.location.assign('/') : done())),
  });
  const rightsOf = ({ role, mayRelease, seesPeople, seesMoney }: Rights): Rights => ({
    role,
    mayRelease,
    seesPeople,
    seesMoney,
  });
  const columns: Column<MemberView>[] = [
    {
      id: 'name',
      head: 'Name',
      by: ({ name }) => name,
      cell: ({ name, mail, isYou }) => (
        <>
          {name}
          {isYou && <span className="text-quiet"> (you)</span>}
          <span className="text-quiet block text-[12.5px]">{mail}</span>
        </>
      ),
    },
    {
      id: 'role',
      head: 'Role',
      by: ({ role }) => role,
      cell: (one) =>
        view.isOwner ? (
          <select
            className="field"
            aria-label={`Role of ${one.name}`}
            value={one.role}
            disabled={change.isPending}
            onChange={(event) =>
              change.mutate({ id: one.id, ...rightsOf(one), role: event.target.value as Rights['role'] })
            }
          >
            {roles.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        ) : (
          one.role
        ),
    },
    {
      id: 'rights',
      head: 'May',
      cell: (one) => (
        <span className="flex flex-wrap gap-x-4 gap-y-1">
          {flags.map(([flag, words]) => (
            <label key={flag} className="flex items-center gap-1.5 whitespace-nowrap">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                aria-label={`${one.name} ${words}`}
                checked={one[flag]}
                disabled={!view.isOwner || change.isPending}
                onChange={(event) => change.mutate({ id: one.id, ...rightsOf(one), [flag]: event.target.checked })}
              />
              {words}
            </label>
          ))}
        </span>
      ),
    },
    {
      id: 'seen',
      head: 'Last here',
      by: ({ seenAt }) => seenAt,
      cell: ({ seenAt }) => (seenAt ? <Time iso={seenAt} timeZone={view.timeZone} /> : 'not yet'),
    },
    {
      id: 'remove',
      head: 'Take out',
      isHeadHidden: true,
      className: 'text-right whitespace-nowrap',
      cell: (one) =>
        (view.isOwner || one.isYou) &&
        !(one.isYou && view.isLastOwner) && (
          <Confirm
            words={one.isYou ? 'Leave' : 'Take out'}
            question={one.isYou ? 'Leave this business?' : `Take ${one.name} out?`}
            does={one.isYou ? 'Leave it' : `Take ${one.name} out`}
            onConfirm={() => remove.mutate(one)}
          >
            {one.isYou
              ? 'You no longer see it; an owner can invite you again. What you made stays.'
              : `${one.name} no longer sees this business, and tokens that ${one.name} made end. What ${one.name} made stays.`}
          </Confirm>
        ),
    },
  ];
  const error = change.error ?? remove.error;
  return (
    <div>
      <DataTable
        label={`People of ${business}`}
        rows={view.members}
        idOf={({ id }) => id}
        columns={columns}
        start={{ by: 'name', descending: false }}
        none="Nobody has a role here."
      />
      {error && (
        <p role="alert" className="text-error mt-2">
          <Words text={error.message} />
        </p>
      )}
    </div>
  );
}

function Invitations({ api, view }: { api: string; view: PeopleView }) {
  const client = useQueryClient();
  const withdraw = useMutation({
    mutationFn: (id: string) => sendJson(`${api}/invitations/${id}/withdraw`, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  const columns: Column<InvitationView>[] = [
    { id: 'mail', head: 'Invited', by: ({ mail }) => mail, cell: ({ mail }) => mail },
    { id: 'rights', head: 'As', cell: (one) => rightsWords(one) },
    { id: 'by', head: 'By', cell: ({ invitedBy }) => invitedBy },
    {
      id: 'ends',
      head: 'Ends',
      by: ({ endsAt }) => endsAt,
      cell: ({ endsAt }) => <Time iso={endsAt} timeZone={view.timeZone} />,
    },
    {
      id: 'withdraw',
      head: 'Withdraw',
      isHeadHidden: true,
      className: 'text-right',
      cell: ({ id, mail }) => (
        <button
          type="button"
          className="button"
          aria-label={`Withdraw the invitation of ${mail}`}
          disabled={withdraw.isPending}
          onClick={() => withdraw.mutate(id)}
        >
          Withdraw
        </button>
      ),
    },
  ];
  return (
    <DataTable
      label="Open invitations"
      rows={view.invitations}
      idOf={({ id }) => id}
      columns={columns}
      none="Nobody is invited."
      isPart
    />
  );
}

function Invite({ api, onMade }: { api: string; onMade: (mail: string, link: string) => void }) {
  const client = useQueryClient();
  const form = useAppForm({
    name: `${api} invite`,
    schema: invitationSchema,
    isStored: false,
    values: { mail: '', role: 'editor', mayRelease: false, seesPeople: true, seesMoney: true },
    async save(wanted) {
      const { link } = await sendJson<{ link: string }>(`${api}/invitations`, wanted);
      onMade(wanted.mail, link);
      await client.invalidateQueries();
    },
  });
  return (
    <form onSubmit={form.onSubmit} className="sheet p-5" aria-label="Invite somebody" noValidate>
      <h2 className="text-base">Invite somebody</h2>
      <div className="mt-3">
        <Field form={form} name="mail" words="Email" placeholder="anna@bakery.example" as="email" />
      </div>
      <div className="mt-3">
        <Field form={form} name="role" words="As" options={roles} />
      </div>
      <fieldset className="mt-3 flex flex-col gap-1.5">
        <legend className="sr-only">What they may do</legend>
        {flags.map(([flag, words]) => (
          <label key={flag} className="flex items-center gap-2">
            <input type="checkbox" {...form.register(flag)} className="checkbox checkbox-sm" /> {words}
          </label>
        ))}
      </fieldset>
      <button className="button button-strong mt-4" disabled={form.isSaving}>
        Make the link
      </button>
      <Problem text={form.problem} />
    </form>
  );
}
