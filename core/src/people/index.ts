export * from './guessing.ts';
export * from './rights.ts';
