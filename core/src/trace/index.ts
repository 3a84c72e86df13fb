export * from './scanned-code.ts';
