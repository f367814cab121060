/** The parts of the station Report-backs. */
export const reportBacksParts = (business: string, current: 'Outcomes' | 'Queue') => ({
  label: 'Report-backs',
  home: `/b/${business}/report-backs`,
  paths: [
    ['Outcomes', ''],
    ['Queue', '/queue'],
  ] as const,
  current,
});
