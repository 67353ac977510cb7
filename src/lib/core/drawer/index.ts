export * from './byte-lines';
export * from './compare';
export * from './hash';
export * from './parameter-changes';
export * from './search';
export * from './similarity';
export * from './version';
