export type { BoardFiles, BomFile, ClassedAperture, InUnit, ReadBoard, UploadedFile } from './files.ts';
export * from './layers.ts';
export * from './opening-names.ts';
export { readBoard } from './read-board.ts';
export * from './differences.ts';
export * from './revisions.ts';
export { type AsBefore, type ReadBefore } from './read-before.ts';
