export * from './clip.ts';
export * from './near.ts';
export * from './rings.ts';
export * from './width.ts';
