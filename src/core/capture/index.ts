export * from './address';
export * from './cookies';
export * from './fill';
export * from './keep';
export * from './kept-values';
export * from './pii';
export * from './swap';
export * from './touch';
export type * from './schema';
