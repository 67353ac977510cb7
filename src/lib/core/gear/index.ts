export * from './catalogue-table';
export * from './device';
