export * from './questions';
export * from './write';
