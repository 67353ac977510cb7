export * from './catalogue-table';
export * from './device';
export * from './from-profile';
export * from './kinds';
export * from './midi-ports';
export * from './present-port';
export * from './merge-facts';
