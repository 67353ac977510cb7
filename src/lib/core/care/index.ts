export * from './risk';
