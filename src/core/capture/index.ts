export * from './address';
export * from './cookies';
export * from './fill';
export * from './keep';
export * from './pii';
export * from './touch';
export type * from './schema';
