export * from './care.ts';
export * from './layout.ts';
export * from './run-out.ts';
export * from './verify.ts';
export * from './splice-route.ts';
export * from './reel-count.ts';
export * from './scan-sequence.ts';
export * from './run-out-plan.ts';
