export * from './facts';
export * from './known';
export { rehearse, reachedOf, type Rehearsed } from './rehearse';
export * from './sentence';
export * from './steps';
export * from './traits';
