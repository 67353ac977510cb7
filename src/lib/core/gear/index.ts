export * from './catalogue-table';
export * from './device';
export * from './midi-ports';
