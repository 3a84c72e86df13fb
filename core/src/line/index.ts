export * from './hours.ts';
export * from './pace.ts';
export * from './station.ts';
export * from './ready.ts';
