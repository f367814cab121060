export { connect } from './connection';
export { insertRows } from './insert';
export { likeText } from './like';
export { migrate } from './migrate';
export { defineTables, plain, type Table, type Tables } from './tables';
export { errorNumber, inReadCommitted, inTransaction } from './transaction';
export * from './work';
export type * from './rows';
