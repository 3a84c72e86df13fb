export * from './board-heat.ts';
export * from './judge.ts';
export * from './metrics.ts';
export * from './oven.ts';
export * from './predict.ts';
export * from './window.ts';
export * from './profile-log.ts';
