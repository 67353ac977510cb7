export * from './procedure';
export * from './risk';
