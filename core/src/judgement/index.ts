export * from './input-error.ts';
export * from './issue.ts';
export * from './level.ts';
export * from './verdict.ts';
