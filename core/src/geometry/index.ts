export * from './clip.ts';
export * from './near.ts';
export * from './rings.ts';
export * from './simple.ts';
export * from './width.ts';
