export * from './lateness';
export * from './line';
export * from './network';
export * from './score';
