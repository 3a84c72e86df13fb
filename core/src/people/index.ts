export * from './rights.ts';
