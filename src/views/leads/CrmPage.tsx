import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { CrmRule } from '../../core/leads/schema';
import type { CrmEffectView, CrmOffersView, CrmStationView } from '../../core/outcomes/view';
import { ruleKinds } from '../../core/rules';
import { count } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { readJson, sendJson } from '../../ui/text/read';
import { leadsParts } from './LeadsFrame';
import { StageOrder } from './StageOrder';

interface Props {
  business: string;
  initial: CrmStationView;
}

/** Which CRM leads are read from: what its fields hold, its stages in order, and what that read lately. */
export function CrmPage(props: Props) {
  return (
    <Live>
      <Crm {...props} />
    </Live>
  );
}

function Crm({ business, initial }: Props) {
  useDraftWatch(business);
  const view = useView(`/api/b/${business}/crm`, initial);
  const isConnected = view.beside.accounts.some(({ does }) => does === 'crm');
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'CRM')}
      actions={
        !isConnected &&
        view.mayChange && (
          <a href={`/b/${business}/connections?new=yes`} className="button button-strong">
            Connect the CRM
          </a>
        )
      }
    >
      {(isConnected || view.rule) && <Editor business={business} view={view} />}
    </StationFrame>
  );
}

function Editor({ business, view }: { business: string; view: CrmStationView }) {
  const { rule, setRule, edit, bar } = useRuleEditor<'crm'>({
    business,
    kind: 'crm',
    stored: view.rule,
    start: ruleKinds.crm.start!(view.beside, []),
    changed: view.changed,
  });
  const { data: offers } = useQuery({
    queryKey: ['crm offers', business, rule.account],
    queryFn: () => readJson<CrmOffersView>(`/api/b/${business}/crm/offers?account=${encodeURIComponent(rule.account)}`),
    enabled: rule.account !== '',
  });
  const fields = [...new Set([...(offers?.fields.map(({ name }) => name) ?? []), ...view.fields])];
  return (
    <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_330px]">
      <section className="sheet min-w-0" aria-label="CRM">
        <RuleSentence
          kind="crm"
          rule={rule}
          onEdit={setRule}
          beside={view.beside}
          disabled={!view.mayChange}
          offers={{ crmFields: fields }}
        />
        {offers?.why && <p className="text-error px-5 pb-3">It could not be asked for its fields: {offers.why}</p>}
        <StageOrder
          stages={rule.stages}
          offered={offers?.stages ?? null}
          seen={view.stagesSeen}
          disabled={!view.mayChange}
          onEdit={(stages) => edit({ stages })}
        />
        {view.mayChange && <DraftBar {...bar} />}
      </section>
      <Effect business={business} rule={rule} lengths={offers?.fields ?? []} />
    </div>
  );
}

function Effect({ business, rule, lengths }: { business: string; rule: CrmRule; lengths: CrmOffersView['fields'] }) {
  const api = `/api/b/${business}/crm/effect`;
  const { data } = useQuery({
    queryKey: [api, rule],
    queryFn: () => sendJson<CrmEffectView>(api, rule),
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (!data) return <EffectSheet heading="What it reads stands here once it has a stage." />;
  if (data.records === 0)
    return (
      <EffectSheet heading="No record has come yet">
        <p className="text-quiet mt-1">Once one has, what each field held stands here.</p>
      </EffectSheet>
    );
  return (
    <EffectSheet heading={`Of the newest ${count(data.records)} records it would read`}>
      <table className="rows mt-2">
        <tbody>
          {data.found.map(({ what, field, records, example }) => {
            const length = lengths.find(({ name }) => name === field)?.length ?? null;
            return (
              <tr key={what}>
                <td className="px-0!">
                  {what}
                  {example && (
                    <code className="value text-quiet block text-[12px] [overflow-wrap:anywhere]">{example}</code>
                  )}
                  {length !== null && length < 40 && (
                    <span className="text-quiet block text-[12.5px]">
                      holds {length} characters, longer ones are cut
                    </span>
                  )}
                </td>
                <td className={`px-0! text-right ${records === 0 ? 'text-error' : ''}`}>
                  {count(records)}
                  {records === 0 && <span className="block text-[12.5px]">no such value</span>}
                </td>
              </tr>
            );
          })}
          <tr>
            <td className="px-0!">of a form that Avrix saw</td>
            <td className="px-0! text-right">{count(data.joined)}</td>
          </tr>
        </tbody>
      </table>
      {data.strayStages.length > 0 && (
        <p className="text-error mt-3">
          At stages that are in no order:{' '}
          {data.strayStages.map(({ stage, records }) => `${stage} (${count(records)})`).join(', ')}.
        </p>
      )}
    </EffectSheet>
  );
}
