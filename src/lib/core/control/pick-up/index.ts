export * from './hand';
export * from './set-walk';
export * from './standing';
