export * from './moved-report.ts';
export * from './scanned-code.ts';
export * from './holds.ts';
export * from './scanner-test.ts';
export * from './label.ts';
