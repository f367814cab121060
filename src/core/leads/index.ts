export * from './hops';
export { followedValues, valueWords } from './schema';
export type { CrmRecord, CrmRule, FollowedValue, LeadListQuery } from './schema';
