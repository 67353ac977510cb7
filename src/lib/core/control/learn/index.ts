export * from './address';
export * from './learnt';
export * from './sweep';
export * from './walk';
export * from './quick';
