export * from './businesses';
