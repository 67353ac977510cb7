export * from './bytes';
export * from './describe';
export * from './smf';
export * from './statements';
export * from './status';
export * from './wire';
