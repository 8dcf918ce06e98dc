export * from './planes';
export * from './rows';
