export * from './foil.ts';
export * from './ratios.ts';
