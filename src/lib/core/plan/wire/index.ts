export * from './lateness';
export * from './line';
export * from './score';
