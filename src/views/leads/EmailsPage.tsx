import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import type { MailShown, MailsView, MailView } from '../../core/leads/routines/view';
import { listed } from '../../core/listed';
import { counted } from '../../core/strands';
import { useOpen, type Open } from '../../ui/address/useOpen';
import { Problem } from '../../ui/form/Problem';
import { KeptBar } from '../../ui/form/KeptBar';
import { useKept } from '../../ui/form/useKept';
import { StationFrame } from '../../ui/frame/StationFrame';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { NewRule } from '../../ui/rule/RuleStation';
import { useSettled } from '../../ui/rule/useSettled';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { leadsParts } from './LeadsFrame';

interface Props {
  business: string;
  initial: MailsView;
  search: string;
}

/** What somebody writes of an email. */
type Written = Pick<MailView, 'name' | 'subject' | 'text' | 'html'> & { seen: string };
const fresh: Written = { name: '', subject: '', text: 'Hello {{ first_name }},\n\n', html: '', seen: '' };

/** Emails that routines send: their text, and how they read for the newest lead. */
export function EmailsPage(props: Props) {
  return (
    <Live>
      <Emails {...props} />
    </Live>
  );
}

function Emails({ business, initial, search }: Props) {
  const api = `/api/b/${business}/leads/emails`;
  const view = useView(api, initial, 5000);
  const open = useOpen('email', search);
  const used = view.mails.filter(({ isRetired }) => !isRetired);
  const retired = view.mails.filter(({ isRetired }) => isRetired);
  const stored = open.isNew ? null : (view.mails.find(({ id }) => id === open.id) ?? used[0] ?? null);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Routines')}
      crumb={
        <>
          <a href={`/b/${business}/leads/routines`} className="quiet-link">
            Routines
          </a>{' '}
          / Emails
        </>
      }
      actions={
        <div className="flex flex-wrap gap-2">
          <a className="button" href={`/b/${business}/leads/emails/set-up`}>
            How emails are sent
          </a>
          {view.mayChange && <NewRule words="New email" open={open} />}
        </div>
      }
    >
      {(stored !== null || open.isNew) && (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[230px_1fr]">
          <PickList
            label="Emails"
            items={[...used, ...retired].map((one) => ({
              id: one.id,
              href: open.href(one.id),
              words: one.name,
              under: one.isRetired
                ? 'retired'
                : one.sent > 0
                  ? `sent ${counted(one.sent, 'time', 'times')}`
                  : 'not sent yet',
            }))}
            current={stored?.id ?? ''}
            onPick={open.pick}
            fresh={open.isNew ? 'New email' : null}
          />
          <Editor key={stored?.id ?? 'new'} api={api} view={view} stored={stored} open={open} />
        </div>
      )}
    </StationFrame>
  );
}

function Editor({ api, view, stored, open }: { api: string; view: MailsView; stored: MailView | null; open: Open }) {
  const client = useQueryClient();
  const { value, set, isSaving, problem, setProblem, keep, copy } = useKept<Written>(
    `email ${stored?.id ?? ''}`,
    api,
    open,
    view.mails.map((one) => one.name),
  );
  const textRef = useRef<HTMLTextAreaElement>(null);
  const written: Written = value ?? (stored ? { ...stored, seen: stored.changedAt } : fresh);
  const { name, subject, text, html, seen } = written;
  const edit = (part: Partial<Written>) => set({ name, subject, text, html, seen, ...part });
  const retire = useMutation({
    mutationFn: () => sendJson<MailsView>(`${api}/retire`, { id: stored!.id, retired: !stored!.isRetired }),
    onSuccess: (next) => {
      setProblem('');
      client.setQueryData([api], next);
    },
    onError: (error) => setProblem(error.message),
  });
  /** Puts what is known of a lead in where the writing stands. */
  const insert = (fact: string) => {
    const area = textRef.current;
    const at = area?.selectionStart ?? text.length;
    const piece = `{{ ${fact} }}`;
    edit({ text: text.slice(0, at) + piece + text.slice(area?.selectionEnd ?? at) });
    requestAnimationFrame(() => {
      area?.focus();
      area?.setSelectionRange(at + piece.length, at + piece.length);
    });
  };
  const own: Written = { name, subject, text, html, seen };
  const mayEdit = view.mayChange && !stored?.isRetired;
  const disabled = !mayEdit || isSaving;
  const isWhole = [name, subject, text].every((one) => one.trim() !== '');
  const canSave = !disabled && value !== null && isWhole;
  return (
    <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_1fr]">
      <section className="sheet" aria-label={stored?.name ?? 'New email'}>
        <div className="grid gap-3 px-5 py-4">
          <Row words="What it is called">
            <input
              className="field w-full font-semibold"
              value={name}
              disabled={disabled}
              maxLength={80}
              onChange={(event) => edit({ name: event.target.value })}
            />
          </Row>
          <Row words="Subject">
            <input
              className="field w-full"
              value={subject}
              disabled={disabled}
              maxLength={200}
              onChange={(event) => edit({ subject: event.target.value })}
            />
          </Row>
          <Row words="Text">
            <textarea
              ref={textRef}
              className="field min-h-60 w-full leading-normal"
              value={text}
              disabled={disabled}
              maxLength={20_000}
              onChange={(event) => edit({ text: event.target.value })}
            />
          </Row>
          {!disabled && (
            <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Put in">
              <span className="text-quiet text-[12.5px]">Put in</span>
              {view.facts.map(([fact, words]) => (
                <button
                  key={fact}
                  type="button"
                  className="bg-base-200 value cursor-pointer rounded-[4px] px-2 py-0.5 text-[12px]"
                  title={`Put in ${words}`}
                  onClick={() => insert(fact)}
                >
                  {fact}
                </button>
              ))}
              {view.crmFields.length > 0 && (
                <select
                  className="field w-auto text-[13px]"
                  aria-label="Put in a field of the CRM’s record"
                  value=""
                  onChange={(event) => insert(`record.${event.target.value}`)}
                >
                  <option value="">a field of the record</option>
                  {view.crmFields.map((field) => (
                    <option key={field}>{field}</option>
                  ))}
                </select>
              )}
            </div>
          )}
          <details>
            <summary className="quiet-link cursor-pointer">HTML of its own</summary>
            <p className="text-quiet my-1 text-[13px]">Empty: it is made of the text.</p>
            <textarea
              aria-label="HTML"
              className="field value min-h-40 w-full"
              value={html}
              disabled={disabled}
              maxLength={60_000}
              onChange={(event) => edit({ html: event.target.value })}
            />
          </details>
        </div>
        <KeptBar
          save="Save email"
          onSave={mayEdit ? (canSave ? () => keep({ ...own, id: stored?.id ?? '' }) : null) : undefined}
          onUndo={value === null ? null : () => set(null)}
          onCopy={stored && view.mayChange ? (isWhole ? () => copy(own) : null) : undefined}
          problem={problem}
        >
          {stored && view.mayChange && (
            <button type="button" className="quiet-link cursor-pointer" onClick={() => retire.mutate()}>
              {stored.isRetired ? 'Use again' : 'Retire'}
            </button>
          )}
        </KeptBar>
        {stored && (
          <p className="text-quiet px-5 pb-4 text-[13px]">
            {stored.usedBy.length > 0
              ? `Sent by ${listed(stored.usedBy.map((one) => `“${one}”`))}`
              : 'No routine sends it'}
            {stored.lastAt && (
              <>
                , last on <Time iso={stored.lastAt} timeZone={view.timeZone} />
              </>
            )}
            .
          </p>
        )}
      </section>
      <Shown api={api} view={view} written={written} isWhole={isWhole} />
    </div>
  );
}

function Row({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <label className="block">
      <span className="text-quiet block text-[12.5px]">{words}</span>
      {children}
    </label>
  );
}

/** How it reads for the newest lead, while it is written; and one to oneself. */
function Shown({ api, view, written, isWhole }: { api: string; view: MailsView; written: Written; isWhole: boolean }) {
  const { subject, text, html } = written;
  const settled = useSettled(JSON.stringify({ subject, text, html }), 300);
  const { data, error } = useQuery({
    queryKey: ['email shown', api, settled],
    queryFn: () => sendJson<MailShown>(`${api}/show`, JSON.parse(settled)),
    enabled: isWhole,
    placeholderData: (before) => before,
    retry: false,
  });
  const send = useMutation({
    mutationFn: () => sendJson<{ answer: string }>(`${api}/try`, { subject, text, html }),
  });
  return (
    <section className="sheet p-5" aria-label="How it reads">
      <h2 className="text-base">How it reads{data && !error ? ` for ${data.of}` : ''}</h2>
      {error ? (
        <Problem text={error.message} />
      ) : data && isWhole ? (
        <>
          <p className="mt-3 font-semibold [overflow-wrap:anywhere]">{data.subject}</p>
          <p className="mt-2 [overflow-wrap:anywhere] whitespace-pre-wrap">{data.text}</p>
        </>
      ) : (
        <p className="text-quiet mt-2">Write a name, a subject and a text.</p>
      )}
      {view.mayChange && (
        <div className="mt-4 flex flex-wrap items-center gap-3">
          <button
            type="button"
            className="button"
            disabled={!isWhole || Boolean(error) || send.isPending}
            onClick={() => send.mutate()}
          >
            Send it to me
          </button>
          {send.isSuccess && <span role="status">Sent: {send.data.answer}</span>}
          <Problem text={send.error?.message} />
        </div>
      )}
    </section>
  );
}
