/** Data identifiers that a label may carry before its code (from memory): serial, customer part, maker part, lot. */
const IDENTIFIER = /^(S|P|1P|1T)(?=[A-Z0-9])/;

/** What a scan may mean: the fields of an ISO/IEC 15434 envelope, each without and with its data identifier, or the code itself. Nothing for a blank scan.
 * @see ISO/IEC 15434 (message envelope), ANSI MH10.8.2 (data identifiers): values from memory
 */
export function codesIn(scan: string): string[] {
	const text = scan.trim();
	if (text === '') return [];
	if (!text.startsWith('[)>')) return [text];
	return text
		.replace(/^\[\)>\u001e?0[56]\u001d?/, '')
		.split(/[\u001d\u001e\u0004]/)
		.filter((field) => field !== '')
		.flatMap((field) => [field.replace(IDENTIFIER, ''), field]);
}
