export * from './hops';
export * from './moves';
export * from './state';
export { followedValues, valueWords, type FollowedValue } from './values';
export type { CrmRecord, CrmRule, LeadListQuery } from './schema';
