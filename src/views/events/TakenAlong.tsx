import { readingName } from '../../core/events/words';
import type { EventsView } from '../../core/events/view';
import { ruleSentence } from '../../core/rules';
import { count } from '../../core/strands';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { TakeOutRow } from '../../ui/form/rows';
import { Words } from '../../ui/text/Words';
import { AddReading } from './AddReading';

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
                    <TakeOutRow
                      label={`Take out ${readingName(id, view.readings)}`}
                      disabled={!view.mayChange}
                      onClick={() => edit({ reads: rule.reads.filter((one) => one !== id) })}
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {view.mayChange && (
        <p className="flex flex-wrap items-center gap-4 px-4 py-3">
          <AddReading
            view={view}
            label="Take a reading along"
            without={rule.reads}
            onAdd={(id) => edit({ reads: [...rule.reads, id] })}
          />
          <a className="quiet-link" href={`/b/${business}/events/readings?new=yes`}>
            New reading
          </a>
        </p>
      )}
    </div>
  );
}
