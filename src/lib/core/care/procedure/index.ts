export * from './firmware-update';
export * from './gate';
export * from './open-run';
export * from './procedure';
export * from './run';
