import { disagreementWords, type ChannelRule, type ComparedRow } from '../../core/plan';
import type { ChannelsView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { Words } from '../../ui/text/Words';
import { PlanFrame } from './PlanFrame';
import { Referrers } from './Referrers';

interface Props {
  business: string;
  initial: ChannelsView;
  search: string;
}

/** Links, results and CRM side by side, with everything in which they differ. */
export function ChannelsPage(props: Props) {
  return (
    <Live>
      <Channels {...props} />
    </Live>
  );
}

function Channels({ business, initial, search }: Props) {
  const api = `/api/b/${business}/plan/channels`;
  const view = useView(api, initial);
  const [medium, setMedium] = useAddressPart('medium', search);
  const row = view.rows.find((one) => one.medium !== '' && one.medium === medium);
  return (
    <PlanFrame business={business} section="Do they agree?" sentence={view.sentence} offPlan={view.offPlan}>
      <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_330px]">
        <div className="flex min-w-0 flex-col gap-6">
          <section className="sheet overflow-x-auto" aria-label="Do they agree?">
            <table className="rows">
              <thead>
                <tr>
                  <th scope="col">In links, the medium</th>
                  <th scope="col">In results, the channel</th>
                  <th scope="col">In {view.crm.name || 'the CRM'}, the campaign type</th>
                  <th scope="col">Media</th>
                  <th scope="col" className="text-right!">
                    Arrived
                  </th>
                </tr>
              </thead>
              <tbody>
                {view.rows.map((one) => (
                  <Compared
                    key={one.medium || `type ${one.crmTypes[0]}`}
                    row={one}
                    current={one.medium !== '' && one.medium === medium}
                    onPick={() => setMedium(one.medium)}
                  />
                ))}
                {view.rows.length === 0 && (
                  <tr>
                    <td colSpan={5} className="text-quiet">
                      List media at the tag Medium; each then stands here.
                    </td>
                  </tr>
                )}
              </tbody>
            </table>
            {view.crm.why && <p className="text-quiet border-base-300 border-t px-4 py-2.5">{view.crm.why}</p>}
          </section>
          <Referrers business={business} view={view} />
        </div>
        {row ? (
          <ChannelEditor key={row.medium} business={business} view={view} row={row} />
        ) : (
          <p className="sheet text-quiet p-5">
            {view.rows.some((one) => one.medium !== '') ? (
              'Pick a medium to change what it means in results and in the CRM.'
            ) : (
              <a href={`/b/${business}/plan?tag=utm_medium`} className="button text-base-content">
                List media
              </a>
            )}
          </p>
        )}
      </div>
    </PlanFrame>
  );
}

const none = <span className="text-error">none</span>;

function Compared({ row, current, onPick }: { row: ComparedRow; current: boolean; onPick: () => void }) {
  const { medium, label, channel, crmTypes, media, tracked, arrivals, disagreements } = row;
  const has = (...codes: string[]) => disagreements.some(({ code }) => codes.includes(code));
  return (
    <>
      <tr aria-selected={current} className={disagreements.length > 0 ? '[&>td]:border-b-0' : ''}>
        <td>
          {medium ? (
            <button type="button" className="cursor-pointer text-left" onClick={onPick} aria-expanded={current}>
              <code className="value quiet-link font-semibold">{medium}</code>{' '}
              <span className="text-quiet">{label !== medium && label}</span>
            </button>
          ) : (
            none
          )}
        </td>
        <td>{channel || none}</td>
        <td>{crmTypes.length > 0 ? crmTypes.join(', ') : has('no_crm_type') ? none : 'none'}</td>
        <td className="whitespace-nowrap">
          {media ? `${media}, ${tracked ? 'tracked' : 'not tracked'}` : <span className="text-quiet">not said</span>}
        </td>
        <td className="text-right tabular-nums">{medium ? count(arrivals) : ''}</td>
      </tr>
      {disagreements.length > 0 && (
        <tr aria-selected={current}>
          <td colSpan={5} className="text-error h-auto! pt-0! pb-2.5! text-[13px]">
            {disagreements.map((found) => disagreementWords(found)).join(' ')}
          </td>
        </tr>
      )}
    </>
  );
}

function ChannelEditor({ business, view, row }: { business: string; view: ChannelsView; row: ComparedRow }) {
  const stored = view.plan.channels.find((rule) => rule.medium === row.medium);
  const start: ChannelRule = stored ?? {
    ...{ medium: row.medium, channel: row.label, crmTypes: [], media: 'paid', tracked: true, joins: 'on' },
  };
  const { rule, setRule, edit, bar } = useRuleEditor({
    ...{ business, kind: 'channel' as const, stored: stored ?? null, start, changed: view.changed },
  });
  const disabled = !view.mayChange;
  const types = [...new Set([...(view.crm.types ?? []), ...rule.crmTypes])];
  const channels = [...new Set(view.plan.channels.map(({ channel }) => channel))];
  return (
    <section className="sheet" aria-label={row.medium}>
      <div className="px-5 py-4">
        <RuleSentence
          className="text-[16px] leading-[1.9]"
          kind="channel"
          rule={rule}
          onEdit={setRule}
          beside={{ plan: view.plan }}
          disabled={disabled}
        />
        <datalist id="channels">
          {channels.map((channel) => (
            <option key={channel} value={channel} />
          ))}
        </datalist>
        <fieldset className="mt-3" disabled={disabled}>
          <legend className="text-quiet text-[13px]">Campaign types in {view.crm.name || 'the CRM'}</legend>
          {types.length === 0 && <p className="text-quiet mt-1">None are known. {view.crm.why}</p>}
          {types.map((type) => (
            <label key={type} className="mt-1.5 flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={rule.crmTypes.includes(type)}
                onChange={(event) =>
                  edit({
                    crmTypes: event.target.checked
                      ? [...rule.crmTypes, type]
                      : rule.crmTypes.filter((one) => one !== type),
                  })
                }
              />
              {type}
              {view.crm.types && !view.crm.types.includes(type) && <span className="text-error">not in the CRM</span>}
            </label>
          ))}
        </fieldset>
        {row.disagreements.length > 0 && (
          <p className="text-error mt-3 text-[13px]">
            <Words text={row.disagreements.map((found) => disagreementWords(found)).join(' ')} />
          </p>
        )}
      </div>
      {view.mayChange && <DraftBar {...bar} />}
    </section>
  );
}
