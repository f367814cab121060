import { useState } from 'react';
import { buildName, piecesOf } from '../../core/plan';
import type { Campaign } from '../../core/plan/campaign';
import { campaignStages, stageWords } from '../../core/plan/stages';
import type { CampaignsView, CampaignView } from '../../core/plan/campaign-view';
import type { Plan } from '../../core/plan';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { Wrong } from '../../ui/text/Wrong';
import { PartField } from './NameTrial';

interface Props {
  business: string;
  api: string;
  view: CampaignsView;
  row: CampaignView | null;
  onDone: () => void;
}

const empty = (currency: string): Campaign => ({
  ...{ name: '', friendly: '', stage: 'asking', startsOn: '', endsOn: '', budget: '', currency },
  ...{ owner: '', note: '', crmId: '', crmType: '' },
});

/** One campaign, written by hand. Its tracking name is put together from the plan's parts. */
export function CampaignForm({ business, api, view, row, onDone }: Props) {
  const [campaign, setCampaign] = useState<Campaign>(() => (row ? campaignOf(row) : empty(view.currency)));
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const edit = (part: Partial<Campaign>) => setCampaign((before) => ({ ...before, ...part }));
  const send = async (address: string, body: object) => {
    setBusy(true);
    try {
      await sendJson(address, body);
      onDone();
    } catch (error) {
      const fields = error instanceof ApiProblem ? error.fields : [];
      const named = Object.fromEntries(fields.map(({ field, was }) => [field, was]));
      setWrong(fields.length > 0 ? named : { name: (error as Error).message });
    } finally {
      setBusy(false);
    }
  };
  const text = (field: keyof Campaign, words: string, type = 'text') => (
    <div>
      <label className="block">
        <span className="text-quiet block text-[12.5px]">{words}</span>
        <input
          className={`field mt-0.5 w-full ${field === 'name' ? 'value' : ''}`}
          type={type}
          value={campaign[field]}
          disabled={!view.mayChange}
          aria-invalid={field in wrong}
          aria-describedby={`${field}-wrong`}
          onChange={(event) => edit({ [field]: event.target.value })}
        />
      </label>
      <Wrong id={`${field}-wrong`} text={wrong[field]} />
    </div>
  );
  return (
    <form
      className="sheet flex flex-col gap-3 p-5"
      aria-label={row ? campaign.friendly || campaign.name : 'New campaign'}
      onSubmit={(event) => {
        event.preventDefault();
        void send(row ? `${api}/${row.id}` : api, campaign);
      }}
    >
      <h2 className="text-base">{row ? campaign.friendly || campaign.name : 'New campaign'}</h2>
      {text('friendly', 'What people call it')}
      <NameParts plan={view.plan} onBuilt={(name) => edit({ name })} />
      {text('name', 'Tracking name, as it stands in links')}
      <div className="grid grid-cols-2 gap-3">
        <label className="block">
          <span className="text-quiet block text-[12.5px]">It is for people who are</span>
          <select
            className="field mt-0.5 w-full"
            value={campaign.stage}
            disabled={!view.mayChange}
            onChange={(event) => edit({ stage: event.target.value as Campaign['stage'] })}
          >
            {campaignStages.map((stage) => (
              <option key={stage} value={stage}>
                {stageWords[stage]}
              </option>
            ))}
          </select>
        </label>
        {text('owner', 'Owner')}
        {text('startsOn', 'From', 'date')}
        {text('endsOn', 'To', 'date')}
        {text('budget', 'Budget')}
        {text('currency', 'Currency')}
        {text('crmId', `Number in ${view.crm || 'the CRM'}`)}
        <label className="block">
          <span className="text-quiet block text-[12.5px]">Campaign type there</span>
          <input
            className="field mt-0.5 w-full"
            list="crm types"
            value={campaign.crmType}
            disabled={!view.mayChange}
            onChange={(event) => edit({ crmType: event.target.value })}
          />
          <datalist id="crm types">
            {view.crmTypes.map((type) => (
              <option key={type} value={type} />
            ))}
          </datalist>
        </label>
      </div>
      {text('note', 'Note')}
      <div className="mt-1 flex flex-wrap gap-2">
        {view.mayChange && (
          <button className="button button-strong" disabled={busy}>
            {row ? 'Keep it' : 'Add it'}
          </button>
        )}
        {row && (
          <a href={`/b/${business}/links?campaign=${encodeURIComponent(row.name)}`} className="button">
            Make links
          </a>
        )}
        {row && view.mayChange && (
          <button
            type="button"
            className="button"
            disabled={busy}
            onClick={() => void send(`${api}/${row.id}/retire`, { retired: true })}
          >
            Retire it
          </button>
        )}
        <button type="button" className="button" onClick={onDone}>
          Close
        </button>
      </div>
    </form>
  );
}

function campaignOf(row: CampaignView): Campaign {
  const { name, friendly, stage, startsOn, endsOn, budget, currency, owner, note, crmId, crmType } = row;
  return { name, friendly, stage, startsOn, endsOn, budget, currency, owner, note, crmId, crmType };
}

/** Fields for the parts of a name; as soon as all fit, the name is written. */
function NameParts({ plan, onBuilt }: { plan: Pick<Plan, 'naming'>; onBuilt: (name: string) => void }) {
  const [values, setValues] = useState<Record<string, string>>({});
  const parts = (piecesOf(plan.naming) ?? []).flatMap((piece) => ('part' in piece ? [piece.part] : []));
  if (parts.length === 0) return null;
  return (
    <div className="flex flex-wrap gap-2">
      {parts.map((part) => (
        <label key={part.key} className="block">
          <span className="text-quiet block text-[12.5px]">{part.label}</span>
          <PartField
            part={part}
            value={values[part.key] ?? ''}
            onChange={(value) => {
              const next = { ...values, [part.key]: value };
              setValues(next);
              const built = buildName(plan.naming, next);
              if ('name' in built) onBuilt(built.name);
            }}
          />
        </label>
      ))}
    </div>
  );
}
