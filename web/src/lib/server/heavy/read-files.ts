import { readBoard, type BoardFiles, type BomFile, type ReadBoard, type UploadedFile } from '@keen-relay/core/boards';
import type { PackageReader } from '@keen-relay/core/parts';
import { strictText } from '../files/strict-text.ts';
import { readSheets } from './spreadsheet.ts';

/** Reads the files of one side: the core does, once a spreadsheet among them was unpacked. */
export async function readBoardFiles(files: BoardFiles, read?: PackageReader): Promise<ReadBoard> {
	return readBoard({ ...files, bom: await withSheets(files.bom) }, strictText, read);
}

async function withSheets(file: UploadedFile): Promise<BomFile> {
	const zipped = file.bytes[0] === 0x50 && file.bytes[1] === 0x4b;
	// Damaged, or no spreadsheet: the core says so in words.
	return zipped ? { ...file, sheets: await readSheets(file.bytes).catch(() => null) } : file;
}
