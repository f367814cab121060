export * from './facts';
export * from './known';
export { followHits, reachedOf, type FollowedHits } from './follow';
export { rehearse, type Rehearsed } from './rehearse';
export * from './sentence';
export * from './steps';
export * from './traits';
export * from './trace';
