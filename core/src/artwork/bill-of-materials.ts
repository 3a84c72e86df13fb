import { type Issue, quoteValue } from '../judgement/index.ts';
import {
	chosenHeader,
	columnsSeen,
	findHeader,
	openQuote,
	plainTitle,
	proposedColumns,
	type ColumnChoice,
	type ColumnsSeen
} from '../tables/index.ts';

export interface BomItem {
	/** Line of the file or row of the sheet where the item begins. */
	line: number;
	partNumber: string;
	designators: string[];
	quantity: number | null;
	fitted: boolean;
	/** Put in by a person or soldered otherwise: no paste is expected under it. */
	byHand: boolean;
	value: string;
	packageName: string;
	description: string;
}

export interface BillOfMaterials {
	items: BomItem[];
	issues: Issue[];
	/** What each column was taken for, or is proposed for where no header is known; null where there is no table. */
	columns: ColumnsSeen | null;
}

/** What a column of a parts list can be. */
export const BOM_ROLES = ['ref', 'part', 'maker', 'method', 'quantity', 'value', 'package', 'description', 'fitted', 'dnp'] as const;
type Role = (typeof BOM_ROLES)[number];

const WORDS: Record<Role, readonly string[]> = {
	ref: ['designator', 'designators', 'refdes', 'reference', 'references', 'ref', 'refs', 'location', 'position', 'bauteil'],
	part: [
		...['partnumber', 'partno', 'part#', 'pn', 'p/n', 'itemnumber', 'itemno', 'article', 'articlenumber', 'artikel', 'artikelnummer'],
		...['internalpart', 'internalpartnumber', 'ourpartnumber', 'stockcode', 'materialnumber', 'part']
	],
	maker: [
		...[
			'mpn',
			'manufacturerpartnumber',
			'manufacturerpartno',
			'manufacturerpn',
			'manufacturerpart',
			'manufacturerpart#',
			'manufacturerp/n',
			'mfrp/n',
			'mfgp/n',
			'mfrpartnumber'
		],
		...['mfrpartno', 'mfrpart#', 'mfrpn', 'mfrpart', 'mfgpartnumber', 'mfgpartno', 'mfgpart#', 'mfgpn', 'mfgpart', 'makerpartnumber'],
		...['makerpart', 'manfpartnumber', 'manpartnumber', 'orderingcode', 'ordercode', 'herstellernummer', 'herstellerteilenummer']
	],
	method: ['method', 'mounting', 'mountingtype', 'mounttype', 'assembly', 'assemblytype', 'technology', 'process', 'solderedby'],
	quantity: ['quantity', 'qty', 'count', 'menge', 'pieces'],
	value: ['value', 'val', 'comment', 'wert'],
	package: ['package', 'footprint', 'pattern', 'case', 'gehäuse'],
	description: ['description', 'desc', 'text', 'bezeichnung'],
	fitted: [
		'fitted',
		'fit',
		'populate',
		'populated',
		'mount',
		'mounted',
		'place',
		'placed',
		'stuff',
		'stuffed',
		'assemble',
		'assembled',
		'install',
		'bestückt'
	],
	dnp: [
		'dnp',
		'dnf',
		'dni',
		'dns',
		'dnm',
		'nofit',
		'nopop',
		'nostuff',
		'notfitted',
		'notpopulated',
		'unpopulated',
		'donotplace',
		'donotpopulate',
		'donotfit',
		'donotstuff',
		'donotmount',
		'donotinstall'
	]
};

function rolesOf(titles: readonly string[]): Partial<Record<Role, number>> {
	const plain = titles.map(plainTitle);
	const columns: Partial<Record<Role, number>> = {};
	for (const role of Object.keys(WORDS) as Role[]) {
		const at = WORDS[role].map((word) => plain.indexOf(word)).find((i) => i >= 0);
		if (at !== undefined && !Object.values(columns).includes(at)) columns[role] = at;
	}
	return columns;
}

const VERBS = '(?:fit(?:ted)?|place[d]?|mount(?:ed)?|pop(?:ulate[d]?)?|stuff(?:ed)?|install(?:ed)?|load(?:ed)?|assemble[d]?)';
const WORDS_NOT_FITTED = `d[. ]?n[. ]?[pfims]\\.?|no[ _-]?(?:pop|fit|stuff|place|mount|load)|not[ _-]${VERBS}|do[ _-]not[ _-]${VERBS}|un(?:populated|stuffed|placed|fitted|loaded)|omit(?:ted)?`;
/** A whole cell that says so. Two letters count in capitals only: "nF" is a unit. */
const NOT_FITTED = new RegExp(`^(?:${WORDS_NOT_FITTED})$`, 'i');
const SHORT_NOT_FITTED = /^(?:N\.?F\.?|N\.?M\.?)$/;
/** A value with such a word beside it: "10k DNP", "100n (not fitted)". */
const VALUE_NOT_FITTED = new RegExp(`(?:^|[\\s(,;/[])(?:${WORDS_NOT_FITTED})(?:$|[\\s),;/\\]])`, 'i');
/** Cells that name something else, whatever letters stand in them. */
const ELSEWHERE = /^(?:unit|units|uom|einheit|manufacturer|mfr|supplier|vendor|hersteller)/;
const BY_HAND = /^(?:by )?(?:hand|manual(?:ly)?|tht?|pth|through[ -]?hole|wave|selective|press[ -]?fit|mechanical|thd|durchsteck)/i;
const YES = /^(y|yes|true|1|x|✓|ja)$/i;
const NO = /^(n|no|false|0|-|✗|nein)$/i;

/** Reads a bill of materials from text. Designators may be lists and ranges; a line with only designators continues the one above.
 * @param text the decoded file, or a sheet joined with tabs
 * @param literal designators that exist as they are in the position file, so that "J1-2" is not taken for a range
 * @param chosen which column is what, where a person said it
 */
export function readBom(text: string, literal: ReadonlySet<string> = new Set(), chosen: ColumnChoice | null = null): BillOfMaterials {
	const cut = openQuote(text);
	if (cut) return { items: [], issues: [cut], columns: null };
	const said = chosen && chosenHeader<Role>(text, chosen);
	const header = said ?? findHeader<Role>(text, rolesOf, ['ref']);
	if (!header || header.columns.ref === undefined || Object.keys(header.columns).length < 2) {
		const first = text.split(/\r\n|\r|\n/).find((raw) => raw.trim() !== '') ?? '';
		return {
			items: [],
			columns: said ? columnsSeen(said, BOM_ROLES) : proposedColumns(text, guessRoles, 'ref'),
			issues: [
				{
					severity: 'error',
					code: 'needs_mapping',
					line: 1,
					field: 'header',
					value: quoteValue(first),
					message:
						'No header line with designators and a part number was found. Say which column is what, or add a line such as "Part number,Designators,Quantity,Value,Package".'
				}
			]
		};
	}
	const { columns } = header;
	const issues: Issue[] = [];
	const items: BomItem[] = [];
	for (const row of header.rows.slice(header.headerAt + 1)) {
		const cell = (role: Role) => (columns[role] === undefined ? '' : (row.cells[columns[role]] ?? '').trim());
		if (row.cells.every((c) => c.trim() === '')) continue;
		const issue = (severity: Issue['severity'], code: string, field: string, value: string, message: string) =>
			issues.push({ severity, code, line: row.line, field, value: quoteValue(value), message: `Line ${row.line}: ${message}` });
		const expanded = expandDesignators(cell('ref'), literal);
		for (const token of expanded.bad)
			issue('error', 'bad_range', 'designators', token, `"${token}" is not a designator or a range. Correct it.`);
		const previous = items.at(-1);
		if (cell('part') === '' && cell('quantity') === '' && previous && expanded.designators.length > 0) {
			previous.designators.push(...expanded.designators);
			continue;
		}
		if (expanded.designators.length === 0 && expanded.bad.length === 0) {
			if (/^(total|end|count)/i.test(row.cells[0] ?? '')) continue;
			issue('warning', 'no_designators', 'designators', '', 'no designators, so nothing is placed from it.');
		}
		const quantityText = cell('quantity');
		const quantity = quantityText === '' ? null : Number(quantityText.replace(',', '.'));
		if (quantity !== null && !(Number.isInteger(quantity) && quantity >= 0))
			issue('error', 'bad_cell', 'quantity', quantityText, `the quantity "${quoteValue(quantityText)}" is not a whole number.`);
		items.push({
			line: row.line,
			// A description names no part: two parts may share it.
			partNumber: cell('part') || cell('maker') || cell('value'),
			designators: expanded.designators,
			quantity: quantity !== null && Number.isInteger(quantity) ? quantity : null,
			fitted: isFitted(row.cells, header.titles, columns, quantity),
			byHand: BY_HAND.test(cell('method')),
			value: cell('value'),
			packageName: cell('package'),
			description: cell('description')
		});
	}
	issues.push(...crossChecks(items));
	if (items.length === 0 && issues.length === 0)
		issues.push({
			severity: 'error',
			code: 'no_rows',
			line: header.rows[header.headerAt]?.line ?? 1,
			field: 'file',
			value: '',
			message: 'The header was found, but no item below it. Was the file cut short?'
		});
	return { items, issues, columns: columnsSeen(header, BOM_ROLES) };
}

const DESIGNATORS = /^[A-Z]{1,5}\d+[A-Z]?(?:[\s,;]|-|$)/i;

/** What the columns of rows without a known header look like: a proposal, never taken without a word. */
function guessRoles(rows: readonly (readonly string[])[]): (Role | null)[] {
	const width = rows[0]?.length ?? 0;
	const roles: (Role | null)[] = Array.from({ length: width }, () => null);
	const cells = (i: number) => rows.map((row) => (row[i] ?? '').trim());
	const share = (i: number, is: RegExp) => cells(i).filter((cell) => is.test(cell)).length / rows.length;
	const take = (role: Role, score: (i: number) => number) => {
		const [at, most] = roles.reduce<[number, number]>(
			([a, m], taken, i) => (taken === null && score(i) > m ? [i, score(i)] : [a, m]),
			[-1, 0.6]
		);
		if (most > 0.6) roles[at] = role;
	};
	// Of two that look like designators, those of a parts list are the lists.
	take('ref', (i) => share(i, DESIGNATORS) + share(i, /[,;\s]/) / 10);
	take('quantity', (i) => share(i, /^\d{1,5}$/));
	// What differs from line to line most is the part number.
	take('part', (i) => new Set(cells(i).filter((cell) => /[A-Z0-9]/i.test(cell))).size / rows.length);
	return roles;
}

function isFitted(
	cells: readonly string[],
	titles: readonly string[],
	columns: Partial<Record<Role, number>>,
	quantity: number | null
): boolean {
	const cell = (role: Role) => (columns[role] === undefined ? '' : (cells[columns[role]] ?? '').trim());
	if (quantity === 0) return false;
	if (NO.test(cell('fitted')) || YES.test(cell('dnp'))) return false;
	if (VALUE_NOT_FITTED.test(cell('value'))) return false;
	// Names of parts and packages are no marks.
	const names = [columns.ref, columns.part, columns.maker, columns.package];
	return !cells.some((text, i) => {
		const plain = text.trim();
		return !names.includes(i) && !ELSEWHERE.test(plainTitle(titles[i] ?? '')) && (NOT_FITTED.test(plain) || SHORT_NOT_FITTED.test(plain));
	});
}

function crossChecks(items: readonly BomItem[]): Issue[] {
	const issues: Issue[] = [];
	const seen = new Map<string, number>();
	for (const item of items) {
		const own = new Set<string>();
		for (const ref of item.designators) {
			const before = seen.get(ref);
			const again = own.has(ref);
			own.add(ref);
			if (again || before !== undefined)
				issues.push({
					severity: 'error',
					code: again ? 'duplicate_ref_in_line' : 'ref_on_two_lines',
					line: item.line,
					field: 'designators',
					value: ref,
					message: again
						? `Line ${item.line} lists ${ref} twice. Remove one.`
						: `${ref} stands on line ${before} and on line ${item.line}. Which part is it?`
				});
			else seen.set(ref, item.line);
		}
		if (item.quantity !== null && item.quantity > 0 && item.quantity !== item.designators.length)
			issues.push({
				severity: 'error',
				code: 'qty_mismatch',
				line: item.line,
				field: 'quantity',
				value: String(item.quantity),
				message: `Line ${item.line}: quantity ${item.quantity}, but ${item.designators.length} designators. Correct one of them.`
			});
	}
	return issues;
}

const LONGEST_RANGE = 500;

/** Expands "R1-R3, R7; R10..12 C5" into single designators.
 * @param literal tokens that are designators as they stand
 * @returns what could be read, and the tokens that could not: never dropped in silence
 * @example expandDesignators('R1-R3, R7').designators // => ['R1', 'R2', 'R3', 'R7']
 */
export function expandDesignators(text: string, literal: ReadonlySet<string> = new Set()): { designators: string[]; bad: string[] } {
	const designators: string[] = [];
	const bad: string[] = [];
	for (const token of text
		// One blank each: the patterns below would look at a long row of them again and again.
		.replace(/\s+/g, ' ')
		.replace(/\s*(\.{2,3}|…|–|—|~|-|:)\s*/g, '-')
		.replace(/(?<=\d)\s+(?:to|through|thru|bis)\s+(?=[A-Za-z_]*\d)/gi, '-')
		.split(/[,;\s]+/)) {
		if (token === '') continue;
		if (literal.has(token) || /^[A-Za-z_]+\d*[A-Za-z]?$/.test(token)) {
			designators.push(token);
			continue;
		}
		const range = /^([A-Za-z_]+)(\d+)-([A-Za-z_]*)(\d+)$/.exec(token);
		const [first, last] = [Number(range?.[2]), Number(range?.[4])];
		if (!range || (range[3] !== '' && range[3] !== range[1]) || last < first || last - first > LONGEST_RANGE) {
			bad.push(token);
			continue;
		}
		for (let i = first; i <= last; i++) designators.push(`${range[1]}${i}`);
	}
	return { designators, bad };
}
