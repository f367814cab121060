import { readingName } from '../../core/events/words';
import type { EventsView } from '../../core/events/view';
import { readingOptions } from '../../core/rules/event';
import { ruleSentence } from '../../core/rules';
import { count } from '../../core/strands';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { Words } from '../../ui/text/Words';

/** The readings that an event takes along, each with what it really was lately. */
export function TakenAlong({
  business,
  view,
  editor: { rule, edit },
}: {
  business: string;
  view: EventsView;
  editor: RuleEditor<'event'>;
}) {
  const others = readingOptions(view.beside).filter(([id]) => !rule.reads.includes(String(id)));
  return (
    <div className="border-base-300 border-t">
      {rule.reads.length > 0 && (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col" className="w-[32%]">
                It takes along
              </th>
              <th scope="col">Lately</th>
              <th scope="col" className="text-right!">
                Empty
              </th>
              <th scope="col">
                <span className="sr-only">Take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rule.reads.map((id) => {
              const own = view.readings.find((one) => one.id === id);
              const lately = view.lately[`${rule.name} ${id}`];
              return (
                <tr key={id}>
                  <td>
                    {own ? (
                      <a
                        className="quiet-link"
                        href={`/b/${business}/events/readings?reading=${encodeURIComponent(id)}`}
                        title={ruleSentence('reading', own)?.replaceAll('`', '') ?? ''}
                      >
                        {own.words}
                      </a>
                    ) : (
                      readingName(id)
                    )}
                  </td>
                  <td className="[overflow-wrap:anywhere]">
                    {lately === undefined ? (
                      <span className="text-quiet">not read yet</span>
                    ) : lately.values.length === 0 ? (
                      <span className="text-error">always empty, {count(lately.of)} times</span>
                    ) : (
                      <Words text={lately.values.map((value) => `\`${value.replaceAll('`', 'ˋ')}\``).join(', ')} />
                    )}
                  </td>
                  <td className="text-right whitespace-nowrap">
                    {lately && `${Math.round((100 * lately.empty) / lately.of)} %`}
                  </td>
                  <td className="w-20 text-right">
                    {view.mayChange && (
                      <button
                        type="button"
                        className="quiet-link cursor-pointer whitespace-nowrap"
                        aria-label={`Take out ${readingName(id, view.readings)}`}
                        onClick={() => edit({ reads: rule.reads.filter((one) => one !== id) })}
                      >
                        Take out
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {view.mayChange && (
        <p className="flex flex-wrap items-center gap-4 px-4 py-3">
          <select
            className="field max-w-64"
            aria-label="Take a reading along"
            value=""
            onChange={(event) => edit({ reads: [...rule.reads, event.target.value] })}
          >
            <option value="">Take a reading along …</option>
            {others.map(([id, words]) => (
              <option key={String(id)} value={String(id)}>
                {words}
              </option>
            ))}
          </select>
          <a className="quiet-link" href={`/b/${business}/events/readings?new=yes`}>
            New reading
          </a>
        </p>
      )}
    </div>
  );
}
