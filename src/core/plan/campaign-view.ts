import type { Sentence } from '../strands/sentence';
import type { Campaign } from './campaign';
import type { Plan } from './schema';

export interface CampaignView extends Campaign {
  id: string;
  retired: boolean;
  /** Tagged visits with its name in the weeks looked at, and links made for it. */
  arrivals: number;
  links: number;
  /** What is wrong with its name by the plan; '' where nothing is. */
  wrong: string;
  parts: Record<string, string> | null;
}

export interface CampaignsView {
  sentence: Sentence;
  rows: CampaignView[];
  /** Names that arrived without standing in the register, the commonest first. */
  unregistered: { name: string; arrivals: number }[];
  plan: Pick<Plan, 'naming'>;
  crm: string;
  currency: string;
  crmTypes: string[];
  /** Values that arrived off plan. */
  offPlan: number;
  mayChange: boolean;
  timeZone: string;
  weeks: number;
}

/** What a list of campaigns from outside would do to the register. */
export interface CampaignDifference {
  fresh: DifferenceRow[];
  changed: DifferenceRow[];
  /** In the register with a number of this CRM, and no longer there. */
  vanished: DifferenceRow[];
  same: number;
  /** Rows that cannot be taken, and why. */
  refused: { row: string; field: string; was: string; fix: string }[];
}

export interface DifferenceRow {
  /** By which it is taken: the CRM's number, else the tracking name. */
  key: string;
  campaign: Campaign;
  /** Field by field, what it was and what it would be. */
  changes: { field: string; was: string; will: string }[];
}

/** Campaigns that the CRM has and the register does not. */
export interface CrmCampaigns {
  /** What the CRM is called; '' without one. */
  crm: string;
  campaigns: Campaign[];
}

/** The links in use that name a campaign. */
export interface CampaignLinks {
  links: { url: string; place: string }[];
}
