export * from './list';
export * from './run';
