export * from './cells';
export * from './compile';
export * from './take';
