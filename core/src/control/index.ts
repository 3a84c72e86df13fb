export * from './capability.ts';
export * from './chart.ts';
export * from './ewma.ts';
export * from './feedback.ts';
