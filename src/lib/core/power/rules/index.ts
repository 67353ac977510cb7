export * from './check-power';
export type { PowerFinding } from './rule';
