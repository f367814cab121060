export * from './hops';
export * from './quality';
export * from './working-hours';
export * from './deals';
export * from './moves';
export * from './people';
export * from './state';
export { followedValues, valueWords, type FollowedValue } from './values';
export type { CrmRecord, CrmRule, LeadListQuery } from './schema';
