import { usualPiiNames } from '../capture/schema';
import { firstPlan } from '../plan/first-plan';
import type { ReleaseContent } from '../releases/schema';

/**
 * The rules that a business begins with: values of links are kept for 90 days on its own pages, and nothing of anybody
 * else's is known yet.
 *
 * @param ownHosts the registrable names of its websites
 */
export const firstContent = (ownHosts: string[]): ReleaseContent => ({
  capture: {
    keep: { touchDays: 90, touchAge: 'renewed', utmLowerCase: true, clickIds: [], values: [], setBy: 'page' },
    touch: { visitMinutes: 30, ownHosts, passThroughHosts: [] },
    fill: [],
    consent: { required: false, count: false },
    carry: [],
    tagCarry: [],
    elsewhere: [],
    swaps: [],
    pii: { names: usualPiiNames },
    forms: [],
    orders: [],
    callCodes: [],
  },
  plan: firstPlan(),
  noCustomer: { networks: [], mailDomains: [], hosts: [] },
  events: { readings: [], events: [], wires: [], presses: true },
  crm: null,
  crmWrites: [],
  platforms: [],
  crms: [],
  outcomes: [],
  telling: [],
  ladders: [],
  goals: [],
  qualified: {},
});
