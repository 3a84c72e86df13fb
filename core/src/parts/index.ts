export * from './facts.ts';
export * from './package.ts';
export * from './tape.ts';
