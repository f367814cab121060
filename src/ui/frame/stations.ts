/** A station on the rail, with what of it needs attention. */
export interface Station {
  name: 'Plan' | 'Links' | 'Capture' | 'Events' | 'Leads' | 'Report-backs';
  /** Below the business's address. */
  path: string;
  shortcut: string;
  /** How many of what is wrong there; 0 where it is sound. */
  count: number;
  /** What the count counts, for the pointer and for screen readers. */
  what: string;
  /** True where values are lost there, false where something only needs a look. */
  loses: boolean;
}

/**
 * The stations in the order of work.
 * @param lost strands lost in the last four weeks, by station
 * @param offPlan values that arrived off plan
 * @param faults faults of pages and forms
 * @param quiet events that have gone quiet
 */
export const stationsOf = (lost: Record<string, number>, offPlan: number, faults: number, quiet: number): Station[] => [
  {
    name: 'Plan',
    path: '/plan',
    shortcut: 'g 1',
    count: offPlan,
    loses: false,
    what: 'values arrived off plan in 13 weeks',
  },
  {
    name: 'Links',
    path: '/links',
    shortcut: 'g 2',
    count: lost.Links ?? 0,
    loses: true,
    what: 'lost between click and landing in 4 weeks',
  },
  lost.Capture
    ? {
        name: 'Capture',
        path: '/capture',
        shortcut: 'g 3',
        count: lost.Capture,
        loses: true,
        what: 'lost between landing and Form sent in 4 weeks',
      }
    : {
        name: 'Capture',
        path: '/capture',
        shortcut: 'g 3',
        count: faults,
        loses: false,
        what: 'faults of pages and forms',
      },
  {
    name: 'Events',
    path: '/events',
    shortcut: 'g 4',
    count: quiet,
    loses: false,
    what: quiet === 1 ? 'event has gone quiet' : 'events have gone quiet',
  },
  {
    name: 'Leads',
    path: '/leads',
    shortcut: 'g 5',
    count: lost.Leads ?? 0,
    loses: true,
    what: 'lost between Form sent and the CRM in 4 weeks',
  },
  {
    name: 'Report-backs',
    path: '/report-backs',
    shortcut: 'g 6',
    count: lost['Report-backs'] ?? 0,
    loses: true,
    what: 'lost after the CRM in 4 weeks',
  },
];
