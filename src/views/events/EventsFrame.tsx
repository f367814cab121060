/** The parts of the station Events. */
export const eventsParts = (business: string, current: 'Events' | 'Readings') => ({
  label: 'Events',
  home: `/b/${business}/events`,
  paths: [
    ['Events', ''],
    ['Readings', '/readings'],
  ] as const,
  current,
});
