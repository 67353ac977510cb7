export * from './found';
export * from './line';
export * from './port-groups';
export * from './seek';
export * from './signs';
export * from './sockets';
export { planTake } from './take';
export * from './take-order';
export type { Taking } from './draft';
