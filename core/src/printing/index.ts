export * from './alignment.ts';
export * from './first-print.ts';
export * from './recipe.ts';
export * from './reprint.ts';
export * from './stencil-tool.ts';
export * from './support.ts';
export * from './wipe-plan.ts';
export * from './trial.ts';
