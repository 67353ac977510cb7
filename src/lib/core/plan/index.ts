export * from './check-plan';
export * from './follow';
export type * from './kept-plan';
export * from './make-plan';
export * from './plan';
export * from './policy';
export type { SolveProgress } from './layout';
export * from './wire';
export * from './suppose';
