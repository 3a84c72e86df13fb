export * from './deal.ts';
export * from './line-plan.ts';
