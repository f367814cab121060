/** The parts of the station Events. */
export const eventsParts = (business: string, current: 'Events' | 'Readings' | 'Told') => ({
  label: 'Events',
  home: `/b/${business}/events`,
  paths: [
    ['Events', ''],
    ['Readings', '/readings'],
    ['Told', '/told'],
  ] as const,
  current,
});
