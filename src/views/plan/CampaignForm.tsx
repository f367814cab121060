import { useMutation } from '@tanstack/react-query';
import { campaignSchema, type Campaign } from '../../core/plan/campaign';
import { emptyCampaign } from '../../core/plan/empty-campaign';
import { campaignStages, stageWords } from '../../core/plan/stages';
import type { CampaignsView, CampaignView } from '../../core/plan/campaign-view';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useFocusFirst } from '../../ui/form/useFocusFirst';
import { useAppForm } from '../../ui/form/useAppForm';
import { sendJson } from '../../ui/text/read';
import { CampaignBrought } from './CampaignBrought';
import { CampaignLinks } from './CampaignLinks';
import { NameParts } from './NameParts';

interface Props {
  business: string;
  api: string;
  view: CampaignsView;
  row: CampaignView | null;
  onDone: () => void;
}

/** One campaign, written by hand. Its tracking name is put together from the plan's parts. */
export function CampaignForm({ business, api, view, row, onDone }: Props) {
  const form = useAppForm({
    name: `${business} campaign ${row?.id ?? 'new'}`,
    schema: campaignSchema,
    isStored: row !== null,
    values: row ? campaignOf(row) : emptyCampaign(view.currency),
    save: (campaign) => sendJson(row ? `${api}/${row.id}` : api, campaign).then(onDone),
  });
  const retire = useMutation({
    mutationFn: () => sendJson(`${api}/${row!.id}/retire`, { retired: true }),
    onSuccess: onDone,
  });
  const first = useFocusFirst<HTMLFormElement>(row === null);
  const title = row ? row.friendly || row.name : 'New campaign';
  const disabled = !view.mayChange;
  const common = { form, disabled };
  return (
    <form ref={first} className="sheet flex flex-col gap-3 p-5" aria-label={title} onSubmit={form.onSubmit} noValidate>
      <h2 className="text-base">{title}</h2>
      {row && <CampaignBrought business={business} name={row.name} />}
      <Field {...common} name="friendly" words="What people call it" />
      {!disabled && (
        <NameParts
          naming={view.plan.naming}
          onBuilt={(name) => form.setValue('name', name, { shouldDirty: true, shouldValidate: true })}
        />
      )}
      <Field {...common} name="name" words="Tracking name, used in links" isValue />
      <div className="grid grid-cols-2 gap-3">
        <Field
          {...common}
          name="stage"
          words="Its job"
          options={campaignStages.map((stage) => [stage, stageWords[stage]])}
        />
        <Field {...common} name="owner" words="Owner" />
        <Field {...common} name="startsOn" words="From" as="date" />
        <Field {...common} name="endsOn" words="To" as="date" />
        <Field {...common} name="budget" words="Budget" />
        <Field {...common} name="currency" words="Currency" />
        <Field {...common} name="crmId" words={`Number in ${view.crm || 'the CRM'}`} />
        <Field
          {...common}
          name="crmType"
          words="Campaign type there"
          choices={view.crmTypes.map((value) => ({ value }))}
        />
      </div>
      <Field {...common} name="note" words="Note" />
      {row && <CampaignLinks business={business} row={row} crm={view.crm} mayChange={view.mayChange} />}
      <Problem text={form.problem ?? retire.error?.message} />
      <div className="mt-1 flex flex-wrap gap-2">
        {view.mayChange && (
          <button className="button button-strong" disabled={form.isSaving}>
            {row ? 'Save' : 'Add campaign'}
          </button>
        )}
        {form.isWritten && (
          <button type="button" className="button" onClick={form.undo}>
            Undo
          </button>
        )}
        {row && (
          <a href={`/b/${business}/links?campaign=${encodeURIComponent(row.name)}`} className="button">
            Make links
          </a>
        )}
        {row && view.mayChange && (
          <button type="button" className="button" disabled={retire.isPending} onClick={() => retire.mutate()}>
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
