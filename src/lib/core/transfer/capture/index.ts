export * from './capture';
export * from './order';
