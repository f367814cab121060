export * from './reached';
export * from './worth';
export type * from './schema';
