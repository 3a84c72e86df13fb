export * from './facts.ts';
export * from './package.ts';
export * from './pins.ts';
export * from './tape.ts';
export * from './moisture.ts';
export * from './values.ts';
export * from './reel.ts';
export * from './short.ts';
