export * from './foil.ts';
export * from './ratios.ts';
export * from './web.ts';
