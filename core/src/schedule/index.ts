export * from './hand-over.ts';
export * from './judge.ts';
export * from './next-up.ts';
export * from './shifts.ts';
export * from './stops.ts';
