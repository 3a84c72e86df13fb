export * from './layout.ts';
export * from './run-out.ts';
