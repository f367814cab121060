/** A station on the rail, with what of it needs attention. */
export interface Station {
  name: 'Plan' | 'Links' | 'Capture' | 'Events' | 'Leads' | 'Report-backs' | 'Results';
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

/** What needs attention, by which the stations are drawn. */
interface Figures {
  /** Strands lost in the last four weeks, by station. */
  lost: Record<string, number>;
  /** Values that arrived off plan. */
  offPlan: number;
  /** Faults of pages and forms. */
  faults: number;
  /** Events that have gone quiet. */
  quiet: number;
  /** Report-backs that wait until somebody looked at them. */
  unseen: number;
}

/** The stations in the order of work. */
export const stationsOf = ({ lost, offPlan, faults, quiet, unseen }: Figures): Station[] => [
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
  unseen > 0
    ? {
        name: 'Report-backs',
        path: '/report-backs/queue',
        shortcut: 'g 6',
        count: unseen,
        loses: false,
        what: unseen === 1 ? 'report-back waits for a look' : 'report-backs wait for a look',
      }
    : {
        name: 'Report-backs',
        path: '/report-backs',
        shortcut: 'g 6',
        count: lost['Report-backs'] ?? 0,
        loses: true,
        what: 'lost after the CRM in 4 weeks',
      },
  {
    name: 'Results',
    path: '/results',
    shortcut: 'g 7',
    count: 0,
    loses: false,
    what: '',
  },
];
