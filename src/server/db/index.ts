export { connect } from './connection';
export { migrate } from './migrate';
export { defineTables, plain, type Table, type Tables } from './tables';
export { errorNumber, inTransaction } from './transaction';
export * from './work';
export type * from './rows';
