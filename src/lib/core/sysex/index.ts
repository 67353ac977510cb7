export * from './checksum';
export * from './dump-file';
export * from './frame';
export * from './identity';
export * from './manufacturer';
export * from './packing';
