export * from './parts';
export * from './read-row';
export type { FiledHow, FiledListQuery } from './schema';
export type * from './view';
