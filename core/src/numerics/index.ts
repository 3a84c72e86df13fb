export * from './distributions.ts';
export * from './least-squares.ts';
export * from './random.ts';
export * from './rounding.ts';
export * from './statistics.ts';
export * from './logistic.ts';
