export * from './hit-schema';
export * from './rules-schema';
