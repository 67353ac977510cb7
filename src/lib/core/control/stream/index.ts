export * from './classify';
export type { Encoding } from './likelihood';
export * from './recording';
