import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { placeholdersIn } from '../../core/links';
import type { MakingView } from '../../core/links/view';
import { checkValue, ruleOf } from '../../core/plan';
import type { CrmCampaigns } from '../../core/plan/campaign-view';
import { Problem } from '../../ui/form/Problem';
import { readJson } from '../../ui/text/read';
import { NewCampaign, useAddCampaign } from './NewCampaign';

const minute = 60_000;

/** Campaigns of the CRM that are not in the register yet, asked for once the page is there. */
export function useCrmCampaigns(business: string, isAsked: boolean): CrmCampaigns {
  const api = `/api/b/${business}/plan/campaigns/only-in-crm`;
  const { data } = useQuery({
    queryKey: [api],
    queryFn: () => readJson<CrmCampaigns>(api),
    enabled: isAsked,
    staleTime: minute,
  });
  return data ?? { crm: '', campaigns: [] };
}

/** What can be done about a campaign that the register does not have: taken from the CRM, or made here. */
export function CampaignField({
  business,
  view,
  fromCrm,
  value,
  onChange,
}: {
  business: string;
  view: MakingView;
  fromCrm: CrmCampaigns;
  value: string;
  onChange: (value: string) => void;
}) {
  const [isMaking, setMaking] = useState(false);
  const onAdded = ({ name }: { name: string }) => {
    setMaking(false);
    onChange(name);
  };
  const add = useAddCampaign(business, onAdded);
  const rule = ruleOf(view.plan, 'utm_campaign');
  if (!rule || !view.mayChange) return null;
  const there = fromCrm.campaigns.find(({ name }) => name === value);
  // What a platform fills in at the click needs no campaign of its own.
  const isKnown =
    value !== '' &&
    (placeholdersIn(value, view.plan.platforms).length > 0 || checkValue(view.plan, rule, value).problems.length === 0);
  if (isMaking)
    return (
      <NewCampaign
        business={business}
        view={view}
        typed={isKnown ? '' : value}
        onAdded={onAdded}
        onClose={() => setMaking(false)}
      />
    );
  return (
    <div className="mt-1 flex flex-wrap items-center gap-3 text-[12.5px]">
      {there && (
        <>
          <span>
            {there.friendly || there.name} is in {fromCrm.crm}, not in the register yet.
          </span>
          <button type="button" className="button" disabled={add.isPending} onClick={() => add.mutate(there)}>
            Add to register
          </button>
        </>
      )}
      {!there && !isKnown && (
        <button type="button" className="quiet-link cursor-pointer" onClick={() => setMaking(true)}>
          New campaign
        </button>
      )}
      <Problem text={add.error?.message} />
    </div>
  );
}
