import { useQuery } from '@tanstack/react-query';
import { capital } from '../../core/capital';
import { figureText } from '../../core/results/figure-text';
import type { FiguresView } from '../../core/results/figures-view';
import { measureWords } from '../../core/results/measures';
import { readJson } from '../../ui/text/read';

const counted = 'visits,leads,qualified,cost,profit,return_on_cost';

/** What a campaign brought and cost in the last 13 weeks, and where that is broken down. */
export function CampaignBrought({ business, name }: { business: string; name: string }) {
  const query = new URLSearchParams({ count: counted, by: 'campaign', range: 'weeks13', against: 'none', find: name });
  const path = `results/figures?${query}`;
  const { data } = useQuery({
    queryKey: [business, path],
    queryFn: () => readJson<FiguresView>(`/api/b/${business}/${path}`),
  });
  // Figures find names that hold it; a campaign is the one of the whole name.
  const row = data?.rows.find(({ cells }) => cells[0]!.text.toLowerCase() === name.toLowerCase());
  return (
    <section className="border-base-300 border-t pt-3" aria-label="What it brought">
      <div className="flex items-baseline justify-between gap-3">
        <h3 className="font-semibold">What it brought in 13 weeks</h3>
        <a href={`/b/${business}/results?${query}`} className="quiet-link">
          Break it down
        </a>
      </div>
      {!data && <p className="text-quiet">Working it out …</p>}
      {data && !row && <p className="text-quiet">Nothing came by it, and no cost is known.</p>}
      {data && row && (
        <dl className="mt-1 grid grid-cols-3 gap-x-4 gap-y-1.5">
          {data.counted.map((one, i) => {
            // What nothing is known to have cost did not come for nothing.
            const known = row.figures[i] ?? null;
            const figure = one === 'cost' && known === 0 ? null : known;
            return (
              <div key={one}>
                <dt className="text-quiet text-[12.5px]">{capital(measureWords(one))}</dt>
                <dd className="font-semibold">
                  {figure === null ? (
                    <span className="text-quiet font-normal">not known</span>
                  ) : (
                    figureText(one, figure, data.currency)
                  )}
                  {one === 'return_on_cost' && figure !== null && row.measured !== null && (
                    <span className="text-quiet ml-1.5 text-[12px] font-normal">
                      {Math.round(row.measured * 100)} % measured
                    </span>
                  )}
                </dd>
              </div>
            );
          })}
        </dl>
      )}
    </section>
  );
}
