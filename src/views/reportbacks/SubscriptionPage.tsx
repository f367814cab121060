import { useState } from 'react';
import {
  codeOf,
  familyChanges,
  proposeFamily,
  subscriptionPartWords,
  type FamilyMember,
  type SubscriptionPart,
} from '../../core/outcomes/subscription';
import type { OutcomesView } from '../../core/outcomes/view';
import { counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { Cell, Select } from '../../ui/form/rows';
import { useWritten } from '../../ui/form/useWritten';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { useDraft } from '../../ui/rule/useDraft';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: OutcomesView;
}
/** What somebody wrote; `members` only once a step or a code was changed by hand. */
interface Written {
  sender: string;
  beginning: string;
  account: string;
  bids: SubscriptionPart | '';
  members: FamilyMember[] | null;
}

/** Makes the outcomes of a subscription in one go, of the steps that its sender posts. */
export function SubscriptionPage(props: Props) {
  return (
    <Live>
      <Subscription {...props} />
    </Live>
  );
}

function Subscription({ business, initial }: Props) {
  const home = `/b/${business}/report-backs`;
  const view = useView(`/api/b/${business}/outcomes`, initial);
  const { senders } = view.beside;
  const draft = useDraft(business);
  const [made, setMade] = useState(0);
  const firstSender = senders.find(({ steps }) => steps.length > 2)?.key ?? senders[0]?.key ?? '';
  const start: Written = {
    sender: firstSender,
    beginning: likelyBeginning(view, firstSender),
    account: '',
    bids: '',
    members: null,
  };
  const { value: written, set, saved } = useWritten('outcomes of a subscription', start, () => false);
  const sender = senders.find(({ key }) => key === written.sender) ?? senders[0];
  const members = written.members ?? proposeFamily(written.beginning, sender?.steps ?? []);
  const accounts = view.beside.accounts.filter(({ does }) => does === 'platform');
  const account = accounts.find(({ key }) => key === written.account) ?? null;
  const isThere = (code: string) => view.outcomes.some((rule) => rule.code === code);
  const stepped = members.filter(({ step }) => step !== '');
  const chosen = stepped.filter(({ code }) => !isThere(code));
  const isTwice = (code: string) => chosen.filter((one) => one.code === code).length > 1;
  const change = (part: SubscriptionPart, to: Partial<FamilyMember>) =>
    set({ ...written, members: members.map((one) => (one.part === part ? { ...one, ...to } : one)) });
  const add = () =>
    draft.put.mutate(
      familyChanges(
        {
          members: chosen,
          sender: sender!.key,
          words: view.beginnings.find(({ code }) => code === written.beginning)?.label ?? '',
          account,
          bids: written.bids === '' ? null : written.bids,
        },
        view.qualified.some(({ way }) => way === 'subscription'),
      ),
      {
        onSuccess: () => {
          setMade(chosen.length);
          saved();
        },
      },
    );
  const disabled = !view.mayChange || draft.put.isPending;
  return (
    <StationFrame
      sentence={sentenceOf(senders.length, stepped.length, chosen.length, made, written.bids)}
      parts={reportBacksParts(business, 'Outcomes')}
      crumb={
        <a href={home} className="quiet-link">
          Outcomes
        </a>
      }
    >
      {senders.length === 0 ? (
        <a className="button button-strong mt-4 inline-block" href={`${home}/postbacks/new`}>
          Add a sender
        </a>
      ) : (
        <form
          className="sheet mt-4"
          aria-label="Outcomes of a subscription"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <p className="px-5 pt-3 leading-[2.6]">
            What{' '}
            <Select
              label="Sender"
              className="w-auto"
              value={sender?.key ?? ''}
              disabled={disabled}
              onChange={(key) => set({ ...written, sender: key, members: null })}
              options={senders.map(({ key, name }) => [key, name])}
            />{' '}
            posts is counted under codes that begin with{' '}
            {view.beginnings.length > 0 ? (
              <Select
                label="Codes begin with"
                className="w-auto"
                value={written.beginning}
                disabled={disabled}
                onChange={(beginning) =>
                  set({
                    ...written,
                    beginning,
                    members:
                      written.members?.map((one) =>
                        one.code === codeOf(written.beginning, one.part)
                          ? { ...one, code: codeOf(beginning, one.part) }
                          : one,
                      ) ?? null,
                  })
                }
                options={view.beginnings.map(({ code, label }) => [code, `${code}, ${label}`])}
              />
            ) : (
              <code className="value">SUB</code>
            )}
            , and told to{' '}
            <Select
              label="Told to"
              className="w-auto"
              value={account?.key ?? ''}
              disabled={disabled}
              onChange={(key) => set({ ...written, account: key, bids: key === '' ? '' : written.bids })}
              options={[['', 'nobody yet'], ...accounts.map(({ key, name }) => [key, name] as const)]}
            />
            {account && (
              <>
                ;{' '}
                <Select
                  label="Lets it bid"
                  className="w-auto"
                  value={written.bids}
                  disabled={disabled}
                  onChange={(bids) => set({ ...written, bids })}
                  options={[
                    ['', 'none of them'],
                    ...members
                      .filter(({ step }) => step !== '')
                      .map(({ part }) => [part, `the ${subscriptionPartWords(part)}`] as const),
                  ]}
                />{' '}
                lets it bid, {written.bids === '' ? 'all' : 'the others'} are for the record
              </>
            )}
            .
          </p>
          <table className="mt-2 w-full">
            <thead>
              <tr className="border-base-300 text-quiet border-y text-left text-[13px]">
                <th className="px-5 py-2 font-normal">When there is a</th>
                <th className="py-2 font-normal">it posts</th>
                <th className="py-2 font-normal">count</th>
                <th className="py-2 font-normal">worth</th>
              </tr>
            </thead>
            <tbody>
              {members.map(({ part, step, code }) => {
                const words = subscriptionPartWords(part);
                return (
                  <tr key={part} className="border-base-300 border-b last:border-0">
                    <td className="px-5 py-1.5">{words}</td>
                    <td className="py-1.5 pr-4">
                      <Select
                        label={`Step of a ${words}`}
                        className="w-full max-w-56"
                        value={step}
                        disabled={disabled}
                        onChange={(to) => change(part, { step: to })}
                        options={[
                          ['', 'nothing: not made'],
                          ...(sender?.steps ?? []).map((one) => [one, one] as const),
                        ]}
                      />
                    </td>
                    <td className="py-1.5 pr-4">
                      <Cell
                        label={`Code of a ${words}`}
                        className="w-40"
                        value={code}
                        disabled={disabled || step === ''}
                        onChange={(to) => change(part, { code: to.toUpperCase() })}
                      />
                      {isThere(code) && <span className="text-quiet ml-2 text-[13px]">is there already</span>}
                      {isTwice(code) && step !== '' && (
                        <span className="text-error ml-2 text-[13px]">is written twice</span>
                      )}
                    </td>
                    <td className="text-quiet py-1.5">{part === 'signUp' ? 'nothing' : 'the amount posted'}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          {view.mayChange && (
            <div className="border-base-300 flex flex-wrap items-center gap-3 border-t px-5 py-4">
              <button
                className="button button-strong"
                disabled={disabled || chosen.length === 0 || chosen.some(({ code }) => isTwice(code))}
              >
                Add {chosen.length} to draft
              </button>
              <Problem text={draft.problem} />
              {made > 0 && (
                <a className="quiet-link" href={home}>
                  Back to all outcomes
                </a>
              )}
            </div>
          )}
        </form>
      )}
    </StationFrame>
  );
}

/** How codes of a sender's outcomes begin already; else as none does yet. */
function likelyBeginning({ outcomes, beginnings }: OutcomesView, sender: string): string {
  const begins = (code: string) => outcomes.filter((rule) => rule.code.startsWith(`${code}-`));
  const isOfSender = ({ reachedBy }: OutcomesView['outcomes'][number]) =>
    reachedBy.kind === 'postback' && reachedBy.sender === sender;
  const own = beginnings.find(({ code }) => begins(code).some(isOfSender));
  return (own ?? beginnings.find(({ code }) => begins(code).length === 0) ?? beginnings[0])?.code ?? '';
}

function sentenceOf(senders: number, stepped: number, chosen: number, made: number, bids: Written['bids']) {
  if (senders === 0)
    return {
      title: 'Nobody posts what becomes of subscriptions yet.',
      under:
        'Add the program that takes the payments as a sender of postbacks; then its steps are made into outcomes here.',
    };
  if (made > 0)
    return {
      title: `${counted(made, 'outcome is', 'outcomes are')} in the draft.`,
      under:
        'They count once they are live. Say in Capture which form people sign up by, so that each finds its click.',
    };
  if (stepped === 0)
    return { title: 'None of its steps is chosen yet.', under: 'Say beside each kind of payment which step posts it.' };
  if (chosen === 0)
    return {
      title: 'All that it posts is an outcome already.',
      under: 'Write another code beside one to make a further outcome of its step.',
    };
  return {
    title: `${counted(chosen, 'outcome', 'outcomes')} of a subscription, made at once.`,
    under: bids
      ? `Only the ${subscriptionPartWords(bids)} lets a platform bid; nothing counts until it is live.`
      : 'None lets a platform bid until you choose it; nothing counts until it is live.',
  };
}
