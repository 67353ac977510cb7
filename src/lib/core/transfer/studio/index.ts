export * from './lanes';
export * from './plan-backup';
export * from './predict';
export * from './walk-order';
