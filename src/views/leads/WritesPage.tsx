import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { DryRunView, WritesView } from '../../core/leads/writes-view';
import { partWords } from '../../core/leads/part-words';
import type { CrmWriteRule } from '../../core/leads/schema';
import type { LeftBecause } from '../../core/leads/write-back';
import type { CrmOffersView } from '../../core/outcomes/view';
import { quoteValue } from '../../core/quote-value';
import { count, counted } from '../../core/strands';
import { useAddressPart } from '../../ui/address/useAddressPart';
import { useOpen } from '../../ui/address/useOpen';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { RuleGrid } from '../../ui/rule/RuleGrid';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { useSettled } from '../../ui/rule/useSettled';
import { readJson, sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';
import { leadsParts } from './LeadsFrame';
import { WriteExamples } from './WriteExamples';
import { WriteLog } from './WriteLog';
import { whileWaiting } from './while-waiting';

interface Props {
  business: string;
  initial: WritesView;
  search: string;
}

/** What is written into the CRM's records: rules as sentences or a grid, what they would do, and what was written. */
export function WritesPage(props: Props) {
  return (
    <Live>
      <Writes {...props} />
    </Live>
  );
}

function Writes({ business, initial, search }: Props) {
  useDraftWatch(business);
  const api = `/api/b/${business}/leads/writes`;
  const view = useView(api, initial, whileWaiting);
  const client = useQueryClient();
  const open = useOpen('rule', search);
  const [as, setAs] = useAddressPart('as', search);
  const now = useMutation({
    mutationFn: () => sendJson<{ records: number }>(`${api}/now`, {}),
    onSuccess: () => client.invalidateQueries({ queryKey: [api] }),
  });
  const { data: offers } = useQuery({
    queryKey: ['crm offers', business, view.account],
    queryFn: () => readJson<CrmOffersView>(`/api/b/${business}/crm/offers?account=${encodeURIComponent(view.account)}`),
    enabled: view.account !== '',
  });
  const fields = [...new Set([...(offers?.fields.map(({ name }) => name) ?? []), ...view.fields])];
  const has = offers?.fields.map(({ name }) => name) ?? [];
  const lacked = [...new Set(view.rules.flatMap((rule) => rule.fields))].filter(
    (field) => has.length > 0 && !has.includes(field),
  );
  const mayMake = view.mayChange && view.account !== '';
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Written back')}
      actions={
        <div className="flex gap-2">
          {view.rules.length > 0 && (
            <button type="button" className="button" onClick={() => setAs(as === 'grid' ? '' : 'grid')}>
              {as === 'grid' ? 'As sentences' : 'As a grid'}
            </button>
          )}
          {mayMake && as !== 'grid' && <NewRule words="New rule" open={open} />}
        </div>
      }
    >
      {lacked.length > 0 && (
        <p role="status" className="text-error mb-3">
          <Words
            text={`The CRM has no field ${lacked.map(quoteValue).join(', ')}. Nothing is written there until it has, or the rule names another.`}
          />
        </p>
      )}
      {as === 'grid' ? (
        <RuleGrid
          business={business}
          kind="crm_write"
          label="Rules for writing"
          stored={view.rules}
          beside={view.beside}
          disabled={!view.mayChange}
        />
      ) : (
        (view.rules.length > 0 || (open.isNew && mayMake)) && (
          <RuleStation
            business={business}
            kind="crm_write"
            view={view}
            label="Rules for writing"
            fresh="New rule"
            rules={view.rules}
            open={open}
            item={(rule) => ({
              words: <code className="value font-semibold">{rule.fields.join(', ') || 'no field yet'}</code>,
              under: partWords[rule.part],
            })}
            beside={view.beside}
            title={(rule) => rule.fields.join(', ')}
            offers={{ crmFields: fields }}
            effect={({ rule }) => <DryRun business={business} rule={rule} offers={offers} />}
          />
        )
      )}
      <section aria-label="Written" className="mt-6">
        <div className="mb-2 flex flex-wrap items-baseline justify-between gap-4">
          <h2 className="text-base">What was written</h2>
          {view.mayChange && view.rules.length > 0 && (
            <div className="flex items-baseline gap-3">
              {now.data && (
                <span role="status" className="text-quiet">
                  {counted(now.data.records, 'record is', 'records are')} looked at; what lacks it is written.
                </span>
              )}
              <button type="button" className="button" disabled={now.isPending} onClick={() => now.mutate()}>
                Write to earlier records now
              </button>
            </div>
          )}
        </div>
        <Problem text={now.error?.message} />
        <WriteLog
          business={business}
          rows={view.log}
          timeZone={view.timeZone}
          none="Nothing yet. Rules that are live write when an enquiry gets its record; earlier records are written when you say so."
        />
      </section>
    </StationFrame>
  );
}

const leftWords: Record<LeftBecause, string> = {
  same: 'hold it already',
  'no value': 'have nothing to write',
  'not empty': 'are not empty',
  'typed there': 'hold what somebody typed',
  'no slot': 'have no empty field left',
  'no field': 'would go into a field that the CRM does not have',
};

function DryRun({
  business,
  rule,
  offers,
}: {
  business: string;
  rule: CrmWriteRule;
  offers: CrmOffersView | undefined;
}) {
  const api = `/api/b/${business}/leads/writes/effect`;
  const asked = useSettled(rule);
  const { data, error } = useQuery({
    queryKey: [api, asked],
    queryFn: () => sendJson<DryRunView>(api, { rules: [asked] }),
    enabled: asked.fields.length > 0,
    retry: false,
  });
  const lengths = (offers?.fields ?? []).filter(({ name, length }) => rule.fields.includes(name) && length !== null);
  if (asked.fields.length === 0) return <EffectSheet heading="Name a field, and what it would hold is shown here." />;
  if (error) return <EffectSheet heading="It could not be tried" under={error.message} />;
  if (!data) return <EffectSheet heading={null} />;
  return (
    <EffectSheet
      heading={
        data.records === 0
          ? 'No record has come yet'
          : data.written === 0
            ? `Would change none of the newest ${count(data.records)} records`
            : `Would change ${count(data.written)} of the newest ${counted(data.records, 'record', 'records')}`
      }
      under="Tried on the records there are; nothing is written until you say so."
    >
      {data.cut > 0 && (
        <p className="text-error mt-2">
          {counted(data.cut, 'value is', 'values are')} longer than the field:{' '}
          {lengths.map(({ name, length }) => `${name} holds ${length}`).join(', ')}.
        </p>
      )}
      <WriteExamples business={business} examples={data.examples} values={data.values} />
      {data.left.length > 0 && (
        <ul className="text-quiet mt-3 text-[13px]">
          {data.left.map(({ because, fields }) => (
            <li key={because}>
              {count(fields)} {leftWords[because]}
            </li>
          ))}
        </ul>
      )}
    </EffectSheet>
  );
}
