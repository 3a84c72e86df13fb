import { BLOCK_PADS } from '../../queries/readings.ts';

/** Pad readings of one panel as they are stored. */
export interface ReadingsRow {
	boardSideId: number;
	passId: number;
	measuredAt: Date;
	printAttempt: number;
	inspectionAttempt: number;
	/** 0.1 %, 0.1 µm, 0.1 %, 1 µm, 1 µm: what each value is multiplied by. */
	values: readonly [
		volumePct: readonly number[],
		heightUm: readonly number[],
		areaPct: readonly number[],
		offsetXUm: readonly number[],
		offsetYUm: readonly number[]
	];
}

export const COPY_READINGS =
	'copy paste_reading (board_side_id, block, measured_at, pass_id, print_attempt, inspection_attempt, volume, height, area, offset_x, offset_y) from stdin with (format binary)';

const SCALES = [10, 10, 10, 1, 1] as const;
const SIGNATURE = Buffer.from('PGCOPY\n\u00ff\r\n\0', 'latin1');
/** Fields and their lengths before the arrays of a row. */
const FIXED_BYTES = 2 + (4 + 4) + (4 + 2) + (4 + 8) + (4 + 4) + (4 + 2) + (4 + 2);
const ARRAY_HEAD = 4 + 20;
const INT2_OID = 21;
const EPOCH_2000_MS = Date.UTC(2000, 0, 1);

/** Rows for COPY in PostgreSQL's binary format, a row a block of 64 pads: nothing is written as text and read again.
 * @see PostgreSQL documentation, COPY, binary format; smallint[] as its receive function takes it
 */
export function readingsForCopy(rows: readonly ReadingsRow[]): Buffer {
	let size = SIGNATURE.length + 8 + 2;
	for (const { values } of rows) {
		const pads = values[0].length;
		const blocks = Math.ceil(pads / BLOCK_PADS);
		size += blocks * (FIXED_BYTES + 5 * ARRAY_HEAD) + pads * 5 * 6;
	}
	const out = Buffer.allocUnsafe(size);
	let at = SIGNATURE.copy(out, 0);
	at = out.writeInt32BE(0, at);
	at = out.writeInt32BE(0, at);
	for (const row of rows) {
		const pads = row.values[0].length;
		const micros = BigInt(row.measuredAt.getTime() - EPOCH_2000_MS) * 1000n;
		for (let block = 0, from = 0; from < pads; block++, from += BLOCK_PADS) {
			const to = Math.min(pads, from + BLOCK_PADS);
			at = out.writeInt16BE(11, at);
			at = int4(out, at, row.boardSideId);
			at = int2(out, at, block);
			at = out.writeInt32BE(8, at);
			at = out.writeBigInt64BE(micros, at);
			at = int4(out, at, row.passId);
			at = int2(out, at, row.printAttempt);
			at = int2(out, at, row.inspectionAttempt);
			for (let c = 0; c < 5; c++) at = int2Array(out, at, row.values[c]!, from, to, SCALES[c]!);
		}
	}
	out.writeInt16BE(-1, at);
	return out;
}

function int4(out: Buffer, at: number, value: number): number {
	return out.writeInt32BE(value, out.writeInt32BE(4, at));
}

function int2(out: Buffer, at: number, value: number): number {
	return out.writeInt16BE(value, out.writeInt32BE(2, at));
}

function int2Array(out: Buffer, start: number, values: readonly number[], from: number, to: number, scale: number): number {
	let at = out.writeInt32BE(20 + 6 * (to - from), start);
	at = out.writeInt32BE(1, at);
	at = out.writeInt32BE(0, at);
	at = out.writeInt32BE(INT2_OID, at);
	at = out.writeInt32BE(to - from, at);
	at = out.writeInt32BE(1, at);
	for (let i = from; i < to; i++) {
		const v = Math.round(values[i]! * scale);
		out[at] = 0;
		out[at + 1] = 0;
		out[at + 2] = 0;
		out[at + 3] = 2;
		out[at + 4] = v >> 8;
		out[at + 5] = v;
		at += 6;
	}
	return at;
}
