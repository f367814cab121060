import { freshEvent } from '../../core/events/words';
import type { EventsView } from '../../core/events/view';
import { counted } from '../../core/strands';
import { goTo, useAddressPart } from '../../ui/address/useAddressPart';
import { useOpen } from '../../ui/address/useOpen';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { RuleGrid } from '../../ui/rule/RuleGrid';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { Words } from '../../ui/text/Words';
import { EventEffect } from './EventEffect';
import { eventsParts } from './EventsFrame';
import { PointAt } from './PointAt';
import { TakenAlong } from './TakenAlong';
import { Wires } from './Wires';

interface Props {
  business: string;
  initial: EventsView;
  search: string;
}

/** What counts on the website: each event as a sentence, and what it would have caught of recorded traffic. */
export function EventsPage(props: Props) {
  return (
    <Live>
      <Events {...props} />
    </Live>
  );
}

function Events({ business, initial, search }: Props) {
  useDraftWatch(business);
  const view = useView(`/api/b/${business}/events`, initial);
  const open = useOpen('event', search, ['like', 'point']);
  const [like] = useAddressPart('like', search);
  const [as, setAs] = useAddressPart('as', search);
  const start = view.starters.find(({ rule }) => rule.name === like)?.rule ?? freshEvent();
  return (
    <StationFrame
      sentence={view.sentence}
      parts={eventsParts(business, 'Events')}
      actions={
        view.mayChange && (
          <span className="flex gap-2">
            <button type="button" className="button" onClick={() => setAs(as === 'grid' ? '' : 'grid')}>
              {as === 'grid' ? 'As sentences' : 'As a grid'}
            </button>
            <a className="button" href={`/b/${business}/try`}>
              See through a page
            </a>
            {as !== 'grid' && <NewRule words="New event" open={open} />}
          </span>
        )
      }
    >
      {as === 'grid' && <Grids business={business} view={view} />}
      {as !== 'grid' && (open.isNew || view.events.length === 0) && view.mayChange && (
        <Starters view={view} like={like} />
      )}
      {as !== 'grid' && (view.events.length > 0 || open.isNew) && (
        <RuleStation
          key={`${open.isNew} ${like}`}
          business={business}
          kind="event"
          view={view}
          label="All events"
          fresh="New event"
          rules={view.events}
          open={open}
          start={start}
          item={({ name, words }) => ({
            words: <code className="value">{name}</code>,
            under: `${words} · ${view.evidence[name] ?? 'not live'}`,
          })}
          beside={view.beside}
          offers={view.offers}
          title={({ name }) => name}
          beneath={(editor) => (
            <>
              <Moved view={view} editor={editor} />
              {view.mayChange && (
                <PointAt business={business} view={view} search={search} rule={editor.rule} edit={editor.edit} />
              )}
              <TakenAlong business={business} view={view} editor={editor} />
            </>
          )}
          also={({ rule, isNew }) => !isNew && <Wires key={rule.name} business={business} view={view} event={rule} />}
          effect={({ rule, edit }) => (
            <EventEffect
              business={business}
              rule={rule}
              view={view}
              onTake={(cue) => edit({ cues: [...rule.cues, cue] })}
            />
          )}
        />
      )}
      <div className="mt-4 max-w-[640px]">
        <RuleSheet
          business={business}
          kind="presses"
          label="What is recorded"
          stored={view.recording}
          view={view}
          beside={{}}
        >
          {({ presses }) => (
            <p className="text-quiet px-5 pb-4 text-[13px]">
              {presses
                ? 'Their kind, ID, name, data attributes, where a link leads and up to 60 characters of the words on them; never what is typed. By this a new event can be judged by what was pressed before.'
                : 'A new event can only be judged by presses from the day on which they are recorded.'}
            </p>
          )}
        </RuleSheet>
      </div>
    </StationFrame>
  );
}

/** Events, and what is told of them, as rows: pasted from a spreadsheet, many changed at a time. */
function Grids({ business, view }: { business: string; view: EventsView }) {
  const both = { business, beside: view.beside, disabled: !view.mayChange };
  return (
    <>
      <RuleGrid {...both} kind="event" label="Events" stored={view.events} />
      <h2 className="mt-5 mb-2 text-base">Told to</h2>
      <RuleGrid {...both} kind="wire" label="Events told" stored={view.wires} />
    </>
  );
}

/** That visitors reach another page than the one that an event waits for. */
function Moved({ view, editor: { rule, edit } }: { view: EventsView; editor: RuleEditor<'event'> }) {
  const moved = view.moved[rule.name];
  if (!moved || !rule.cues.some(({ kind, text }) => kind === 'arrives' && text === moved.was)) return null;
  return (
    <p className="border-base-300 flex flex-wrap items-center gap-3 border-t px-5 py-3">
      <Words
        text={`From \`${moved.from}\` visitors now reach \`${moved.now}\`, a page that nobody knew before: ${counted(moved.count, 'time', 'times')}.`}
      />
      {view.mayChange && (
        <button
          type="button"
          className="button"
          onClick={() =>
            edit({ cues: rule.cues.map((cue) => (cue.text === moved.was ? { ...cue, text: moved.now } : cue)) })
          }
        >
          Use the new page
        </button>
      )}
    </p>
  );
}

/** Events that fit what the website already does, to begin with. */
function Starters({ view, like }: { view: EventsView; like: string }) {
  if (view.starters.length === 0) return null;
  return (
    <section className="sheet mb-4 px-5 py-4" aria-label="Offered">
      <h2 className="text-base">The website already does this</h2>
      <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {view.starters.map(({ rule, why }) => (
          <li key={rule.name} className="flex items-center gap-2">
            <button
              type="button"
              className="button"
              disabled={rule.name === like}
              onClick={() => goTo({ event: '', new: 'yes', like: rule.name })}
            >
              <Words text={`Begin with \`${rule.name}\``} />
            </button>
            <span className="text-quiet text-[13px]">{why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
