import { disagreementWords, type ChannelRule, type ComparedRow } from '../../core/plan';
import type { ChannelsView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { useAddressPart } from '../../ui/address/useAddressPart';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { Words } from '../../ui/text/Words';
import { PlanFrame } from './PlanFrame';
import { channelsOf, Referrers } from './Referrers';

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

const none = <span className="text-error">none</span>;

function Channels({ business, initial, search }: Props) {
  const api = `/api/b/${business}/plan/channels`;
  const view = useView(api, initial);
  const [medium, setMedium] = useAddressPart('medium', search);
  const row = view.rows.find((one) => one.medium !== '' && one.medium === medium);
  const columns: Column<ComparedRow>[] = [
    {
      id: 'medium',
      head: 'In links, the medium',
      by: (one) => one.medium,
      cell: (one) =>
        one.medium ? (
          <button
            type="button"
            className="cursor-pointer text-left"
            onClick={() => setMedium(one.medium)}
            aria-expanded={one.medium === medium}
          >
            <code className="value quiet-link font-semibold">{one.medium}</code>{' '}
            <span className="text-quiet">{one.label !== one.medium && one.label}</span>
          </button>
        ) : (
          none
        ),
    },
    {
      id: 'channel',
      head: 'In results, the channel',
      by: ({ channel }) => channel,
      cell: ({ channel }) => channel || none,
    },
    {
      id: 'crmTypes',
      head: `In ${view.crm.name || 'the CRM'}, the campaign type`,
      by: ({ crmTypes }) => crmTypes.join(', '),
      cell: ({ crmTypes, disagreements }) =>
        crmTypes.length > 0
          ? crmTypes.join(', ')
          : disagreements.some(({ code }) => code === 'no_crm_type')
            ? none
            : 'none',
    },
    {
      id: 'media',
      head: 'Media',
      by: ({ media }) => media ?? '',
      className: 'whitespace-nowrap',
      cell: ({ media, tracked }) =>
        media ? `${media}, ${tracked ? 'tracked' : 'not tracked'}` : <span className="text-quiet">not said</span>,
    },
    {
      id: 'arrivals',
      head: `Arrived in ${view.weeks} weeks`,
      by: ({ arrivals }) => arrivals,
      right: true,
      cell: (one) => (one.medium ? count(one.arrivals) : ''),
    },
  ];
  return (
    <PlanFrame business={business} section="Do they agree?" sentence={view.sentence} offPlan={view.offPlan}>
      <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_330px]">
        <div className="flex min-w-0 flex-col gap-6">
          <div>
            <DataTable
              label="Do they agree?"
              rows={view.rows}
              idOf={(one) => one.medium || `type ${one.crmTypes[0]}`}
              columns={columns}
              keys={{ Enter: (one) => setMedium(one.medium) }}
              isOpen={(one) => one.medium !== '' && one.medium === medium}
              under={({ disagreements }) =>
                disagreements.length > 0 && (
                  <span className="text-error text-[13px]">
                    {disagreements.map((found) => disagreementWords(found)).join(' ')}
                  </span>
                )
              }
              none="List media at the tag Medium; each then appears here."
            />
            {view.crm.why && <p className="text-quiet mt-2">{view.crm.why}</p>}
          </div>
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

function ChannelEditor({ business, view, row }: { business: string; view: ChannelsView; row: ComparedRow }) {
  const stored = view.plan.channels.find((rule) => rule.medium === row.medium);
  const start: ChannelRule = stored ?? {
    medium: row.medium,
    channel: row.label,
    crmTypes: [],
    media: 'paid',
    tracked: true,
    joins: 'on',
  };
  const { rule, setRule, edit, bar } = useRuleEditor({
    business,
    kind: 'channel' as const,
    stored: stored ?? null,
    start,
    changed: view.changed,
  });
  const disabled = !view.mayChange;
  const types = [...new Set([...(view.crm.types ?? []), ...rule.crmTypes])];
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
          offers={{ channels: channelsOf(view) }}
        />
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
