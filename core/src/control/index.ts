export * from './chart.ts';
