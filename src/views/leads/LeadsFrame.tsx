/** The parts of the station Leads. */
export const leadsParts = (
  business: string,
  current:
    | 'Leads'
    | 'Segments'
    | 'Routines'
    | 'Answers'
    | 'Calls'
    | 'Lead forms'
    | 'Records'
    | 'CRM'
    | 'Written back'
    | 'Repair',
) => ({
  label: 'Leads',
  home: `/b/${business}/leads`,
  paths: [
    ['Leads', ''],
    ['Segments', '/segments'],
    ['Routines', '/routines'],
    ['Answers', '/answers'],
    ['Calls', '/calls'],
    ['Lead forms', '/forms'],
    ['Records', '/records'],
    ['CRM', '/crm'],
    ['Written back', '/writes'],
    ['Repair', '/repair'],
  ] as const,
  current,
});
