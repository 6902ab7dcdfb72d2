/** What exports are for, in the order of the desk. */
export const exportGroups = {
  run: 'To run',
  build: 'For those who build it',
  test: 'For those who test it',
  graph: 'To read, draw and count',
} as const;

export type ExportGroup = keyof typeof exportGroups;
