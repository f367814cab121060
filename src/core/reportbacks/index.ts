export * from './brake';
export * from './corrections';
export * from './decide';
export * from './hops';
