import { splitAddress } from '../../core/capture/address';
import type { EventsView, ReadingLately } from '../../core/events/view';
import { readingName, usualReadings } from '../../core/events/words';
import { count, counted, type Sentence } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { Words } from '../../ui/text/Words';
import { eventsParts } from './EventsFrame';

interface Props {
  business: string;
  initial: EventsView;
  search: string;
}

/** Values taken from pages and visits, for events and their conditions. */
export function ReadingsPage(props: Props) {
  return (
    <Live>
      <Readings {...props} />
    </Live>
  );
}

const sentenceOf = ({ readings }: EventsView): Sentence =>
  readings.length === 0
    ? {
        title: 'Events read what every page has; add what only yours have.',
        under: 'A form’s field, a cookie, a data attribute, what the page says: read once, and used by any event.',
      }
    : {
        title: `${counted(readings.length, 'reading', 'readings')} of your own, beside ${count(usualReadings.length)} that are always there.`,
        under: 'A name that is changed here is changed in every event.',
      };

function Readings({ business, initial, search }: Props) {
  useDraftWatch(business);
  const view = useView(`/api/b/${business}/events`, initial);
  const open = useOpen('reading', search);
  const usersOf = (id: string) =>
    view.events.filter(
      ({ reads, conditions, onceFor, onceReading }) =>
        reads.includes(id) ||
        conditions.some(({ reading }) => reading === id) ||
        (onceFor === 'reading' && onceReading === id),
    );
  return (
    <StationFrame
      sentence={sentenceOf(view)}
      parts={eventsParts(business, 'Readings')}
      actions={view.mayChange && <NewRule words="New reading" open={open} />}
    >
      {view.readings.length === 0 && !open.isNew ? (
        <p className="text-quiet">Always there: {usualReadings.map(([, words]) => words).join(', ')}.</p>
      ) : (
        <RuleStation
          business={business}
          kind="reading"
          view={view}
          label="All readings"
          fresh="New reading"
          rules={view.readings}
          open={open}
          item={({ id, words }) => {
            const users = usersOf(id);
            return {
              words,
              under: users.length === 0 ? 'no event reads it' : `for ${users.map(({ name }) => name).join(', ')}`,
            };
          }}
          beside={view.beside}
          offers={view.offers}
          title={({ words }) => words}
          effect={({ rule, isNew }) => (isNew ? <New /> : <Lately view={view} id={rule.id} />)}
        />
      )}
    </StationFrame>
  );
}

const New = () => (
  <EffectSheet
    heading="Read from its release on"
    under="What it was lately is shown here once an event took it along."
  />
);

/** What a reading was in the events that take it along. */
function Lately({ view, id }: { view: EventsView; id: string }) {
  const rows = view.events.flatMap(({ name }) => {
    const lately = view.lately[`${name} ${id}`];
    return lately ? [{ name, lately }] : [];
  });
  if (rows.length === 0)
    return <EffectSheet heading="Not read yet" under="No event that is counted took it along so far." />;
  return (
    <EffectSheet heading={`${readingName(id, view.readings)}, lately`}>
      <table className="rows mt-2">
        <tbody>
          {rows.map(({ name, lately }) => (
            <tr key={name}>
              <td className="px-0!">
                <code className="value">{name}</code>
                <span className="block">
                  <Words
                    text={
                      lately.values.map((value) => `\`${value.replaceAll('`', 'ˋ')}\``).join(', ') || 'always empty'
                    }
                  />
                </span>
                <span className="text-quiet block text-[12.5px] [overflow-wrap:anywhere]">
                  <Words text={`on ${lately.pages.map((page) => pageWords(page, lately.empty > 0)).join(', ')}`} />
                </span>
              </td>
              <td className="text-quiet px-0! text-right align-top! text-[12.5px] whitespace-nowrap">
                {lately.empty === 0 ? 'never empty' : `empty ${count(lately.empty)} of ${count(lately.of)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </EffectSheet>
  );
}

/** A page that a reading was read on, with how often it was empty there. */
const pageWords = ({ page, of, empty }: ReadingLately['pages'][number], saysEmpty: boolean): string =>
  `\`${splitAddress(page)?.path ?? page}\`${saysEmpty && empty > 0 ? ` (empty ${count(empty)} of ${count(of)})` : ''}`;
