export * from './geometry.ts';
export * from './random.ts';
export * from './statistics.ts';
