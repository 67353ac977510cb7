export * from './cable';
export * from './faults';
export * from './freeze';
export * from './models';
export * from './random';
export * from './sounds';
export * from './station';
export * from './unit';
