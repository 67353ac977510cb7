export * from './performance';
export * from './play-through';
export * from './setup';
export * from './strike';
export * from './voices';
