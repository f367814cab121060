import { useQuery } from '@tanstack/react-query';
import { count, counted, hopWords, type LineView } from '../../core/strands';
import { Sentence } from '../../ui/frame/Sentence';
import { LineFigure } from '../../ui/line/LineFigure';
import { rangeQuery, strandsAddress } from '../../ui/line/addresses';
import { RangePicker } from '../../ui/line/RangePicker';
import { Live, pageRead } from '../../ui/live/Live';
import { readJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

const betweenReads = 5000;

interface Props {
  business: string;
  initial: LineView;
}

/** The line: where the values of these days are, where they were lost, and who asked lately. */
export function LinePage(props: Props) {
  return (
    <Live>
      <LiveLine {...props} />
    </Live>
  );
}

function LiveLine({ business, initial }: Props) {
  const query = new URLSearchParams(rangeQuery(initial.range)).toString();
  const { data: line } = useQuery({
    queryKey: ['line', business, query],
    queryFn: () => readJson<LineView>(`/api/b/${business}/line?${query}`),
    initialData: initial,
    refetchInterval: betweenReads,
    meta: pageRead,
  });
  return (
    <>
      <section className="bg-hero text-hero-ink px-6 pt-4 pb-5">
        <Sentence title={line.sentence.title} under={line.sentence.under} dark>
          <RangePicker range={line.range} path={`/b/${business}`} />
        </Sentence>
        <div className="mt-5">
          <LineFigure line={line} business={business} />
        </div>
      </section>
      <div className="grid grid-cols-1 items-start gap-4 px-6 pt-4 xl:grid-cols-[1.9fr_1fr]">
        <Losses line={line} business={business} />
        <Latest line={line} business={business} />
      </div>
    </>
  );
}

function Losses({ line, business }: { line: LineView; business: string }) {
  const beside = [
    line.beside > 0 && {
      words: `${counted(line.beside, 'enquiry', 'enquiries')} without any known click`,
      href: strandsAddress(business, line.range, { hop: 'clicked', state: 'unknown' }),
    },
    line.noCustomers > 0 && {
      words: `${counted(line.noCustomers, 'strand', 'strands')} of no customers, never counted`,
      href: strandsAddress(business, line.range, { mark: 'any' }),
    },
    line.counted > 0 && {
      words: `${counted(line.counted, 'landing', 'landings')} between Landed and Kept of people who did not agree: a count without rows`,
      href: null,
    },
    line.landedUncounted > 0 && {
      words: `${counted(line.landedUncounted, 'landing', 'landings')} of campaigns whose clicks nobody reports`,
      href: null,
    },
    line.surplus > 0 && {
      words: `${counted(line.surplus, 'landing', 'landings')} more than the platform reported clicks`,
      href: null,
    },
  ].filter((row) => row !== false);
  return (
    <section className="sheet overflow-hidden" id="losses" aria-label="Losses">
      <table className="rows">
        <thead>
          <tr>
            <th scope="col">Hop</th>
            <th scope="col">Why</th>
            <th scope="col" className="text-right!">
              Lost
            </th>
            <th scope="col">What mends it</th>
          </tr>
        </thead>
        <tbody>
          {line.losses.map((loss) => (
            <tr key={`${loss.to} ${loss.words.text} ${loss.kind}`}>
              <td className="font-semibold whitespace-nowrap">
                {hopWords[loss.from]} → {hopWords[loss.to]}
              </td>
              <td>
                <Words text={loss.words.text} />
                <div className="text-quiet text-[12.5px]">{kindWords[loss.kind]}</div>
              </td>
              <td className="text-right">
                {loss.kind === 'inferred' ? (
                  <span className="value font-semibold" title="Worked out from two totals; there are no rows behind it">
                    {count(loss.strands)}
                  </span>
                ) : (
                  <a
                    className="value quiet-link font-semibold"
                    href={strandsAddress(business, line.range, {
                      hop: loss.to,
                      state: 'lost',
                      reason: loss.reason.code,
                    })}
                  >
                    {count(loss.strands)}
                  </a>
                )}
              </td>
              <td className="max-w-72 text-[13px]">
                <Words text={loss.words.mend} />
              </td>
            </tr>
          ))}
          {line.losses.length === 0 && (
            <tr>
              <td colSpan={4} className="text-quiet">
                Nothing was lost in these days.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {beside.length > 0 && (
        <div className="border-base-300 text-quiet border-t px-3.5 py-2.5 text-[13px]">
          Beside the line:{' '}
          {beside.map(({ words, href }, i) => (
            <span key={words}>
              {i > 0 && '; '}
              {href ? (
                <a href={href} className="quiet-link">
                  {words}
                </a>
              ) : (
                words
              )}
            </span>
          ))}
          .
        </div>
      )}
    </section>
  );
}

const kindWords = {
  proven: 'proven: both sides were seen',
  inferred: 'inferred from totals of platforms and short links; no rows',
  unexplained: 'unexplained',
};

function Latest({ line, business }: { line: LineView; business: string }) {
  return (
    <section className="sheet overflow-hidden" aria-label="Latest leads">
      <table className="rows">
        <thead>
          <tr>
            <th scope="col">Latest leads</th>
            <th scope="col">Came from</th>
            <th scope="col" className="text-right!">
              Last hop
            </th>
          </tr>
        </thead>
        <tbody>
          {line.latest.map((lead) => (
            <tr key={lead.id}>
              <td>
                <a href={`/b/${business}/leads/${lead.id}`} className="quiet-link">
                  {lead.company}
                </a>
                <div className="text-quiet text-[12.5px]">
                  <Time iso={lead.sentAt} timeZone={line.timeZone} />
                </div>
              </td>
              <td className="text-[13px]">{lead.cameFrom}</td>
              <td
                className={`text-right whitespace-nowrap ${lead.state === 'lost' ? 'text-error' : ''}`}
                title={lead.why || undefined}
              >
                {lead.state === 'lost' ? `lost after ${lead.lastHop}` : lead.lastHop}
              </td>
            </tr>
          ))}
          {line.latest.length === 0 && (
            <tr>
              <td colSpan={3} className="text-quiet">
                No lead yet.
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </section>
  );
}
