export * from './guessing.ts';
export * from './rights.ts';
export * from './say.ts';
