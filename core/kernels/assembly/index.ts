export * from './rows';
