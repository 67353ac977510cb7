export * from './firmware-update';
export * from './gate';
export * from './procedure';
export * from './run';
