export * from './procedure';
export * from './risk';
export * from './service';
export * from './switching';
