export * from './csv.ts';
export * from './numbers.ts';
export * from './table-file.ts';
