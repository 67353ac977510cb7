export * from './address';
export * from './sweep';
export * from './walk';
