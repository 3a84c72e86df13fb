export * from './deal.ts';
export * from './line-plan.ts';
export * from './fits.ts';
