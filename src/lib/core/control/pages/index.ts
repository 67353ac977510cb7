export * from './count-pages';
export * from './page-task';
export * from './plan-pages';
