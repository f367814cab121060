/** The parts of the station Leads. */
export const leadsParts = (business: string, current: 'Leads' | 'CRM') => ({
  label: 'Leads',
  home: `/b/${business}/leads`,
  paths: [
    ['Leads', ''],
    ['CRM', '/crm'],
  ] as const,
  current,
});
