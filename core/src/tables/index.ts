export * from './numbers.ts';
export * from './table-file.ts';
