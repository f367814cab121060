/** The parts of the station Report-backs. */
export const reportBacksParts = (business: string, current: 'Outcomes' | 'Queue' | 'Postbacks') => ({
  label: 'Report-backs',
  home: `/b/${business}/report-backs`,
  paths: [
    ['Outcomes', ''],
    ['Queue', '/queue'],
    ['Postbacks', '/postbacks'],
  ] as const,
  current,
});
