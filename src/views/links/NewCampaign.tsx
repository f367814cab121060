import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { MakingView } from '../../core/links/view';
import type { Campaign } from '../../core/plan/campaign';
import { emptyCampaign } from '../../core/plan/empty-campaign';
import { campaignStages, stageWords } from '../../core/plan/stages';
import { Problem } from '../../ui/form/Problem';
import { useFocusFirst } from '../../ui/form/useFocusFirst';
import { sendJson } from '../../ui/text/read';
import { NameParts } from '../plan/NameParts';

/** Puts a campaign into the register from where its link is made. */
export function useAddCampaign(business: string, onAdded: (campaign: Campaign) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (campaign: Campaign) => sendJson(`/api/b/${business}/plan/campaigns`, campaign),
    onSuccess: (_, campaign) => {
      onAdded(campaign);
      return client.invalidateQueries();
    },
  });
}

/** A new campaign, made where its link is: its name from the plan's parts, what people call it, and its job. */
export function NewCampaign({
  business,
  view,
  typed,
  onAdded,
  onClose,
}: {
  business: string;
  view: MakingView;
  /** What stands in the campaign's field. */
  typed: string;
  onAdded: (campaign: Campaign) => void;
  onClose: () => void;
}) {
  const [campaign, setCampaign] = useState<Campaign>({ ...emptyCampaign(view.currency), name: typed });
  const add = useAddCampaign(business, onAdded);
  const first = useFocusFirst<HTMLDivElement>(true);
  const set = (part: Partial<Campaign>) => setCampaign({ ...campaign, ...part });
  const label = (words: string) => <span className="text-quiet block text-[12.5px]">{words}</span>;
  return (
    <div
      ref={first}
      role="group"
      aria-label="New campaign"
      className="border-base-300 mt-2 flex flex-col gap-2 rounded border p-3"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
        if (event.key !== 'Enter' || (event.target as HTMLElement).tagName === 'BUTTON') return;
        event.preventDefault();
        if (campaign.name) add.mutate(campaign);
      }}
    >
      <NameParts naming={view.plan.naming} begins={typed} onBuilt={(name) => set({ name })} />
      <label>
        {label('Tracking name, used in links')}
        <input
          className="field value w-full"
          value={campaign.name}
          spellCheck={false}
          onChange={({ target }) => set({ name: target.value })}
        />
      </label>
      <div className="grid grid-cols-2 gap-3">
        <label>
          {label('What people call it')}
          <input
            className="field w-full"
            value={campaign.friendly}
            onChange={({ target }) => set({ friendly: target.value })}
          />
        </label>
        <label>
          {label('Its job')}
          <select
            className="field w-full"
            value={campaign.stage}
            onChange={({ target }) => set({ stage: target.value as Campaign['stage'] })}
          >
            {campaignStages.map((stage) => (
              <option key={stage} value={stage}>
                {stageWords[stage]}
              </option>
            ))}
          </select>
        </label>
      </div>
      <Problem text={add.error?.message} />
      <div className="flex gap-2">
        <button
          type="button"
          className="button button-strong"
          disabled={campaign.name === '' || add.isPending}
          onClick={() => add.mutate(campaign)}
        >
          Add to register
        </button>
        <button type="button" className="button" onClick={onClose}>
          Close
        </button>
      </div>
    </div>
  );
}
