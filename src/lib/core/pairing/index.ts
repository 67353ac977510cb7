export * from './ask';
export * from './pairing';
export * from './pairing-check';
export * from './pairing-table';
