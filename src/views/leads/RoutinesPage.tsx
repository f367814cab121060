import { useState } from 'react';
import { v4 } from 'uuid';
import { freshRoutine, missingInStep, missingInTakes, type RoutineMeans } from '../../core/leads/routines/routine';
import { letGoPieces, takesPieces } from '../../core/leads/routines/sentence';
import type { RoutineState, RoutinesView, RoutineView } from '../../core/leads/routines/view';
import { count } from '../../core/strands';
import { useOpen, type Open } from '../../ui/address/useOpen';
import { KeptBar } from '../../ui/form/KeptBar';
import { useKept } from '../../ui/form/useKept';
import { StationFrame } from '../../ui/frame/StationFrame';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { NewRule } from '../../ui/rule/RuleStation';
import { Sentence } from '../../ui/rule/RuleSentence';
import { leadsParts } from './LeadsFrame';
import { RoutineDoes } from './RoutineDoes';
import { RoutineEffect } from './RoutineEffect';
import { RoutineRuns } from './RoutineRuns';
import { RoutineSteps } from './RoutineSteps';

interface Props {
  business: string;
  initial: RoutinesView;
  search: string;
}

/** What somebody writes of a routine. */
interface Written {
  name: string;
  means: RoutineMeans;
  /** When it was last changed as it was when the writing began. */
  seen: string;
}

const stateWords = ({ state, going }: RoutineView): string =>
  ({
    draft: 'not started',
    running: `running, ${count(going)} on the way`,
    paused: `paused, ${count(going)} on the way`,
    braked: 'holding leads back',
    retired: 'retired',
  })[state satisfies RoutineState];

/** Routines: what follows when a lead meets a condition, as a list of sentences, with who is at which step. */
export function RoutinesPage(props: Props) {
  return (
    <Live>
      <Routines {...props} />
    </Live>
  );
}

function Routines({ business, initial, search }: Props) {
  const api = `/api/b/${business}/leads/routines`;
  const view = useView(api, initial, 5000);
  const open = useOpen('routine', search);
  const used = view.routines.filter(({ state }) => state !== 'retired');
  const retired = view.routines.filter(({ state }) => state === 'retired');
  const stored = open.isNew ? null : (view.routines.find(({ id }) => id === open.id) ?? used[0] ?? null);
  const isShown = stored !== null || open.isNew;
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Routines')}
      actions={
        <div className="flex flex-wrap gap-2">
          <a className="button" href={`/b/${business}/leads/emails`}>
            Emails
          </a>
          <a className="button" href={`/b/${business}/leads/emails/set-up`}>
            How emails are sent
          </a>
          {view.mayChange && <NewRule words="New routine" open={open} />}
        </div>
      }
    >
      {!view.canSend && (
        <p className="sheet mb-4 px-5 py-3">
          Emails cannot be sent yet.{' '}
          <a className="quiet-link" href={`/b/${business}/leads/emails/set-up`}>
            Say which mail server sends them
          </a>
        </p>
      )}
      {isShown && (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[230px_1fr]">
          <PickList
            label="Routines"
            items={[...used, ...retired].map((one) => ({
              id: one.id,
              href: open.href(one.id),
              words: one.name,
              under: stateWords(one),
            }))}
            current={stored?.id ?? ''}
            onPick={open.pick}
            fresh={open.isNew ? 'New routine' : null}
          />
          <Editor key={stored?.id ?? 'new'} business={business} api={api} view={view} stored={stored} open={open} />
        </div>
      )}
    </StationFrame>
  );
}

function Editor({
  business,
  api,
  view,
  stored,
  open,
}: {
  business: string;
  api: string;
  view: RoutinesView;
  stored: RoutineView | null;
  open: Open;
}) {
  const [fresh] = useState<Written>(() => ({ name: '', means: freshRoutine(v4()), seen: '' }));
  const { value, set, isSaving, problem, keep, copy } = useKept<Written>(
    `routine ${stored?.id ?? ''}`,
    api,
    open,
    view.routines.map(({ name }) => name),
  );
  const written = value ?? (stored ? { name: stored.name, means: stored.means, seen: stored.changedAt } : fresh);
  const { means } = written;
  const edit = (part: Partial<RoutineMeans>) => set({ ...written, means: { ...means, ...part } });
  const missing = [missingInTakes(means.takes), ...means.steps.map(missingInStep)].find(Boolean) ?? '';
  const mayEdit = view.mayChange && stored?.state !== 'retired';
  const disabled = !mayEdit || isSaving;
  const canSave = !disabled && value !== null && missing === '' && written.name.trim() !== '';
  const sentence = { beside: { segments: view.segments, mails: view.mails }, disabled, offers: view.offers };
  return (
    <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_330px]">
      <section className="sheet" aria-label={stored?.name ?? 'New routine'}>
        <div className="flex flex-wrap items-baseline gap-3 px-5 pt-4">
          <input
            className="field w-full max-w-[420px] font-semibold"
            aria-label="Name"
            placeholder="What people call it"
            value={written.name}
            disabled={disabled}
            maxLength={80}
            onChange={(event) => set({ ...written, name: event.target.value })}
          />
        </div>
        <Sentence
          className="px-5 pt-4 pb-2 text-[17px] leading-[1.9]"
          pieces={takesPieces}
          rule={means.takes}
          onEdit={(takes) => edit({ takes })}
          {...sentence}
        />
        <RoutineSteps
          steps={means.steps}
          waiting={stored && value === null ? stored.waiting : {}}
          onEdit={(steps) => edit({ steps })}
          {...sentence}
        />
        <Sentence
          className="px-5 pt-2 pb-4 text-[17px] leading-[1.9]"
          pieces={letGoPieces}
          rule={means.letGo}
          onEdit={(letGo) => edit({ letGo })}
          {...sentence}
        />
        <KeptBar
          save="Save routine"
          onSave={mayEdit ? (canSave ? () => keep({ ...written, id: stored?.id ?? '' }) : null) : undefined}
          onUndo={value === null ? null : () => set(null)}
          onCopy={stored && view.mayChange ? (missing === '' ? () => copy(written) : null) : undefined}
          problem={problem}
        >
          {value !== null && missing !== '' && <span className="text-quiet">Still to say: {missing}.</span>}
        </KeptBar>
        {stored && <RoutineDoes api={api} view={view} stored={stored} isWritten={value !== null} means={means} />}
      </section>
      <RoutineEffect business={business} api={api} view={view} means={means} />
      {stored && (
        <div className="xl:col-span-2">
          <RoutineRuns business={business} api={api} view={view} stored={stored} />
        </div>
      )}
    </div>
  );
}
