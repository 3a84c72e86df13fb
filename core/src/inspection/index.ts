export * from './deposit.ts';
export * from './yield.ts';
export * from './signatures/index.ts';
export * from './identity.ts';
export * from './paste-table.ts';
export * from './study-tables.ts';
export * from './consequence.ts';
export * from './class-report.ts';
