export * from './causes.ts';
export * from './explained.ts';
export * from './find.ts';
export * from './follow-up.ts';
export * from './judge.ts';
export type { SignaturePad, SignaturePanel, SignatureRun } from './run.ts';
export { baselineOf, checkRun, smallOpeningMeans, strokeMedians } from './run.ts';
