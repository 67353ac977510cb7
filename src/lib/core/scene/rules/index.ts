export * from './check-zones';
export { keyName, keysName, type SceneWiring, type ZoneFinding } from './rule';
