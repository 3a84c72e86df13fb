export * from './deal.ts';
export * from './line-plan.ts';
export * from './optimise-line.ts';
export * from './line-program.ts';
export * from './fits.ts';
