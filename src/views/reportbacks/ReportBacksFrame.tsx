/** The parts of the station Report-backs. */
export const reportBacksParts = (
  business: string,
  current: 'Outcomes' | 'Queue' | 'Postbacks' | 'Files' | 'Compare',
) => ({
  label: 'Report-backs',
  home: `/b/${business}/report-backs`,
  paths: [
    ['Outcomes', ''],
    ['Queue', '/queue'],
    ['Postbacks', '/postbacks'],
    ['Files', '/files'],
    ['Compare', '/compare'],
  ] as const,
  current,
});
