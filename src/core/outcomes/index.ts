export * from './corrections';
export * from './count';
export * from './happening';
export * from './ladder';
export * from './reached';
export * from './worth';
export type * from './schema';
