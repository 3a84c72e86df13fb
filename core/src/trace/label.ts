/** What a maker's label says of a reel; what it does not say is null. */
export interface LabelData {
	/** As the customer calls the part. */
	partNumber: string | null;
	makerPart: string | null;
	lot: string | null;
	/** Year and week, four digits. */
	dateCode: string | null;
	pieces: number | null;
	/** Of the package itself. */
	serial: string | null;
}

/** Data identifiers of a reel's label: the customer's part, the maker's, quantity, lot, date code (year and week), serial of the package.
 * @see ANSI MH10.8.2 (values from memory)
 */
const FIELDS = [
	['1T', 'lot'],
	['1P', 'makerPart'],
	['9D', 'dateCode'],
	['10D', 'dateCode'],
	['3S', 'serial'],
	['P', 'partNumber'],
	['Q', 'pieces'],
	['S', 'serial']
] as const satisfies readonly (readonly [string, keyof LabelData])[];

const ENVELOPE = /^\[\)>\u001e?06\u001d?([\s\S]*?)\u001e?\u0004?$/;

/** Reads a scan of a maker's label: an envelope with several fields, or one field with its identifier.
 * A code without any is nobody's to guess.
 * @see ISO/IEC 15434 (message envelope, values from memory)
 * @example readLabel('1TQ2634-118').lot // => 'Q2634-118'
 */
export function readLabel(scan: string): LabelData {
	const label: LabelData = { partNumber: null, makerPart: null, lot: null, dateCode: null, pieces: null, serial: null };
	const text = scan.trim();
	const inside = ENVELOPE.exec(text)?.[1];
	for (const field of (inside ?? text).split('\u001d')) {
		const [identifier, name] = FIELDS.find(([id]) => field.startsWith(id) && field.length > id.length) ?? [];
		if (!identifier) continue;
		const value = field.slice(identifier.length).trim();
		if (name === 'pieces') label.pieces = /^\d{1,7}$/.test(value) && Number(value) > 0 ? Number(value) : null;
		else if (name === 'dateCode') label.dateCode = /^\d{4}$/.test(value) ? value : null;
		else label[name!] = value || null;
	}
	return label;
}
