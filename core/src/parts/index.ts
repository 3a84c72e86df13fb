export * from './package.ts';
export * from './tape.ts';
