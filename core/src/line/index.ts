export * from './hours.ts';
export * from './pace.ts';
export * from './ready.ts';
export * from './first-board.ts';
export * from './start.ts';
export * from './station.ts';
export * from './recurrence.ts';
