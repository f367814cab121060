const paths = [
  ['Figures', ''],
  ['Just in', '/just-in'],
  ['Funnel', '/funnel'],
  ['Visits', '/visits'],
  ['Cost', '/cost'],
  ['Three counts', '/three-counts'],
  ['Ripeness', '/ripeness'],
  ['Months', '/months'],
] as const;

/** The parts of the station Results. */
export const resultsParts = (business: string, current: (typeof paths)[number][0]) => ({
  label: 'Results',
  home: `/b/${business}/results`,
  paths,
  current,
});
