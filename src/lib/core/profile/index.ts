export * from './charset';
export * from './describe';
export * from './dump';
export * from './layout';
export * from './parameter';
export * from './recognise';
export * from './schema';
export * from './slots';
