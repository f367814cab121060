import { callCode } from '../../core/capture/call-code';
import type { CallSetUpView } from '../../core/leads/calls-view';
import { count, counted } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { CallSettings } from './CallSettings';
import { leadsParts } from './LeadsFrame';

interface Props {
  business: string;
  initial: CallSetUpView;
  search: string;
}

/** How calls come in and count, and where pages show the code by which a call finds its visit. */
export function CallSetUpPage(props: Props) {
  return (
    <Live>
      <CallSetUp {...props} />
    </Live>
  );
}

function CallSetUp({ business, initial, search }: Props) {
  useDraftWatch(business);
  const api = `/api/b/${business}/leads/calls/set-up`;
  const view = useView(api, initial);
  const open = useOpen('rule', search);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Calls')}
      crumb={
        <>
          <a href={`/b/${business}/leads/calls`} className="quiet-link">
            Calls
          </a>{' '}
          / How calls come in
        </>
      }
      actions={view.mayChange && <NewRule words="Show the code" open={open} />}
    >
      {(view.rules.length > 0 || open.isNew) && (
        <RuleStation
          business={business}
          kind="call_code"
          view={view}
          label="Where the code is shown"
          fresh="New place"
          rules={view.rules}
          open={open}
          item={({ element, pages }) => ({
            words: <code className="value font-semibold">{element || 'no element yet'}</code>,
            under: `on pages that begin with ${pages}`,
          })}
          beside={{}}
          offers={{ paths: view.pages.map(({ path }) => path) }}
          title={({ element }) => element}
          effect={({ rule }) => <CodeEffect view={view} pages={rule.pages} element={rule.element} />}
        />
      )}
      <CallSettings api={api} view={view} secretApi={`/api/b/${business}/leads/calls/secret`} />
    </StationFrame>
  );
}

/** A visitor for the example; no browser has its ID. */
const example = '01a35e16-9c48-7835-ba7c-ef97d26e7f21';

/** Who would have read the code in the last weeks, and what it looks like. */
function CodeEffect({ view, pages, element }: { view: CallSetUpView; pages: string; element: string }) {
  const met = view.pages.filter(({ path }) => path.startsWith(pages));
  const arrivals = met.reduce((sum, one) => sum + one.arrivals, 0);
  const name = /^\.([\w-]+)$/.exec(element)?.[1];
  return (
    <EffectSheet
      heading={
        met.length === 0
          ? 'No page that was seen in 4 weeks begins so'
          : `${counted(met.length, 'page', 'pages')}, opened ${counted(arrivals, 'time', 'times')} in 4 weeks`
      }
      under={`Each visitor reads a code of their own there, such as ${callCode(example)}; without consent the element stays as the page has it.`}
    >
      {name && (
        <p className="mt-2 text-[13px]">
          The page needs <code className="value">{`<span class="${name}"></span>`}</code> beside the number.
        </p>
      )}
      <ul className="mt-2 text-[13px]">
        {met.slice(0, 5).map(({ path, arrivals: times }) => (
          <li key={path} className="flex justify-between gap-3 py-0.5">
            <code className="value [overflow-wrap:anywhere]">{path}</code>
            <span className="text-quiet">{count(times)}</span>
          </li>
        ))}
      </ul>
    </EffectSheet>
  );
}
