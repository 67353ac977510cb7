export * from './feeding';
export * from './from-rig';
export * from './label';
export * from './left-alone';
export * from './plan-power';
export * from './power';
export * from './power-rules';
export * from './power-symptoms';
