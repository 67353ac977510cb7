export * from './check-zones';
export type { SceneWiring, ZoneFinding } from './rule';
