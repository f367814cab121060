import { useMutation, useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { destinationProblems } from '../../core/links';
import { openShortLink, shortLinkWins, type ShortLinkWins } from '../../core/links/open';
import { shortLinkSchema } from '../../core/links/short-link';
import type { ShortLinksView, ShortLinkView } from '../../core/links/view';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useFocusFirst } from '../../ui/form/useFocusFirst';
import { useAppForm } from '../../ui/form/useAppForm';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';
import { fromLocalField, toLocalField } from '../../ui/text/time';

const winsWords: Record<ShortLinkWins, string> = {
  link: 'the link’s own value holds',
  visitor: 'the value it is opened with holds',
  neither: 'nothing is passed on',
};

const { path, host, destination, wins } = shortLinkSchema.shape;
const formSchema = z.object({
  path,
  host: host.unwrap(),
  destination,
  wins: wins.unwrap(),
  status: z.enum(['302', '301']),
  /** As its field has it, in the business's zone; '' never ends. */
  expires: z.string(),
  /** '' leaves it as it is. */
  password: z.string().max(200, 'must have at most 200 characters'),
  opensFreely: z.boolean(),
});

const shortLinkSecrets = ['password'] as const;

/** A short link: made, or led elsewhere. Its path stays, since it may be printed. */
export function ShortForm({
  business,
  link,
  view: { mayChange, timeZone, hosts, plan },
  onSaved,
  onClose,
}: {
  business: string;
  link: ShortLinkView | null;
  view: ShortLinksView;
  onSaved: (path: string) => void;
  onClose: () => void;
}) {
  const api = `/api/b/${business}/short-links${link ? `/${link.id}` : ''}`;
  const client = useQueryClient();
  const form = useAppForm({
    name: `${business} short link ${link?.path ?? 'new'}`,
    schema: formSchema,
    isStored: link !== null,
    secrets: shortLinkSecrets,
    values: {
      path: link?.path ?? '',
      host: link?.host ?? '',
      destination: link?.destination ?? '',
      wins: link?.wins ?? 'link',
      status: link?.status === 301 ? '301' : '302',
      expires: link?.expiresAt ? toLocalField(link.expiresAt, timeZone) : '',
      password: '',
      opensFreely: false,
    },
    async save({ expires, password, opensFreely, status, ...wanted }) {
      await sendJson(api, {
        ...wanted,
        status: Number(status),
        ...(opensFreely ? { password: '' } : password === '' ? {} : { password }),
        expiresAt: fromLocalField(expires, timeZone) || null,
      });
      onSaved(wanted.path);
    },
  });
  const retire = useMutation({
    mutationFn: (retired: boolean) => sendJson(`${api}/retire`, { retired }),
    onSuccess: () => client.invalidateQueries(),
  });
  const first = useFocusFirst<HTMLFormElement>(link === null);
  const common = { form, disabled: !mayChange };
  const [leadsTo, held, opensFreely] = form.watch(['destination', 'wins', 'opensFreely']);
  const opened = openedAt(leadsTo, held);
  const problems = destinationProblems(leadsTo, plan);
  return (
    <form
      ref={first}
      className="sheet flex flex-col gap-3 p-5"
      aria-label={link ? link.path : 'New short link'}
      onSubmit={form.onSubmit}
      noValidate
    >
      <Field
        {...common}
        name="path"
        words="Its own path, after /go/"
        isValue
        readOnly={link !== null}
        placeholder="spring-letter"
      />
      {hosts.length > 1 && (
        <Field
          {...common}
          name="host"
          words="Handed out under"
          options={hosts.map((one, at) => [at === 0 ? '' : one, one])}
        />
      )}
      <Field
        {...common}
        name="destination"
        words="Leads to"
        as="textarea"
        isValue
        className="h-20"
        placeholder="paste a finished link"
      />
      {problems.length > 0 && (
        <ul className="text-error -mt-2 text-[12.5px]" aria-label="What is wrong with where it leads">
          {problems.map((words) => (
            <li key={words}>
              <Words text={words} />
            </li>
          ))}
        </ul>
      )}
      <Field
        {...common}
        name="wins"
        words="If both set the same tag"
        options={shortLinkWins.map((one) => [one, winsWords[one]])}
      />
      <div className="grid grid-cols-2 gap-3">
        <Field {...common} name="expires" words="Ends (blank: never)" as="datetime-local" />
        <Field
          {...common}
          name="status"
          words="Redirect type"
          options={[
            ['302', '302, can change'],
            ['301', '301, remembered'],
          ]}
        />
      </div>
      {!opensFreely && (
        <Field
          {...common}
          name="password"
          words={link?.hasPassword ? 'New password (blank: the one it has)' : 'Password (blank: none)'}
          as="password"
          autoComplete="new-password"
        />
      )}
      {link?.hasPassword && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            disabled={!mayChange}
            {...form.register('opensFreely')}
          />
          Open it without a password
        </label>
      )}
      <Problem text={form.problem ?? retire.error?.message} />
      {opened && (
        <p className="text-quiet text-[12.5px]">
          Opened with <code className="value">?utm_source=poster</code> it leads to{' '}
          <code className="value">{opened}</code>
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {mayChange && (
          <button className="button button-strong" disabled={form.isSaving}>
            {link ? 'Save' : 'Make short link'}
          </button>
        )}
        {form.isWritten && (
          <button type="button" className="button" onClick={form.undo}>
            Undo
          </button>
        )}
        {link && mayChange && (
          <button
            type="button"
            className="button"
            disabled={retire.isPending}
            onClick={() => retire.mutate(link.state !== 'retired')}
          >
            {link.state === 'retired' ? 'Use it again' : 'Retire it'}
          </button>
        )}
        <button type="button" className="button" onClick={onClose}>
          Close
        </button>
      </div>
    </form>
  );
}

/** Where a short link would lead when somebody opens it with a query of their own; '' where it leads nowhere yet. */
function openedAt(leadsTo: string, held: ShortLinkWins): string {
  return URL.canParse(leadsTo) ? openShortLink(leadsTo, 'utm_source=poster', held) : '';
}
