export * from './notice';
