/** The parts of the station Leads. */
export const leadsParts = (business: string, current: 'Leads' | 'Records' | 'CRM' | 'Written back' | 'Repair') => ({
  label: 'Leads',
  home: `/b/${business}/leads`,
  paths: [
    ['Leads', ''],
    ['Records', '/records'],
    ['CRM', '/crm'],
    ['Written back', '/writes'],
    ['Repair', '/repair'],
  ] as const,
  current,
});
