export * from './cycle-time.ts';
export * from './judge.ts';
export * from './machine.ts';
export * from './program.ts';
export * from './pick-errors.ts';
export * from './trims.ts';
export * from './fiducials.ts';
export * from './other-machines.ts';
