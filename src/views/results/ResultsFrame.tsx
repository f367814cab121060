/** The parts of the station Results. */
export const resultsParts = (business: string, current: 'Figures') => ({
  label: 'Results',
  home: `/b/${business}/results`,
  paths: [['Figures', '']] as const,
  current,
});
