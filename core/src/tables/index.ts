export * from './table-file.ts';
