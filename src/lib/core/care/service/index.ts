export * from './book';
