export * from './length.ts';
export * from './wall-clock.ts';
