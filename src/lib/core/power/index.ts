export * from './feeding';
export * from './left-alone';
export * from './plan-power';
export * from './power';
export * from './power-rules';
export * from './power-symptoms';
