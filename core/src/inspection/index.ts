export * from './deposit.ts';
export * from './yield.ts';
