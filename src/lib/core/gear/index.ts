export * from './catalogue-table';
export * from './device';
export * from './from-profile';
export * from './midi-ports';
export * from './present-port';
