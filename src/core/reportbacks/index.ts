export * from './decide';
export * from './hops';
