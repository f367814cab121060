export * from './follow';
export * from './ids';
export * from './line';
export * from './range';
export * from './sentence';
export * from './trace';
export * from './types';
export type * from './view';
export * from './visitor';
