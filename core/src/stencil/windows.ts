import { InputError, requireRange } from '../judgement/index.ts';
import { atLeast, atMost } from '../numerics/index.ts';

export interface WindowPane {
	columns: number;
	rows: number;
	/** Web of foil between windows, mm. */
	webMm: number;
	windowXMm: number;
	windowYMm: number;
	/** Open share of the pad. */
	coverage: number;
}

/** Windows over a pad from their number, margin and web: ax = (Lx−2m−(n−1)g)/n, coverage n·r·ax·ay/(Lx·Ly).
 * @throws {InputError} where nothing is left for a window
 */
export function paneFromWeb(padXMm: number, padYMm: number, marginMm: number, columns: number, rows: number, webMm: number): WindowPane {
	const windowXMm = (padXMm - 2 * marginMm - (columns - 1) * webMm) / columns;
	const windowYMm = (padYMm - 2 * marginMm - (rows - 1) * webMm) / rows;
	if (!(windowXMm > 0 && windowYMm > 0)) throw new InputError('mismatch', 'webMm', 'a web that leaves room for windows', webMm);
	return { columns, rows, webMm, windowXMm, windowYMm, coverage: (columns * rows * windowXMm * windowYMm) / (padXMm * padYMm) };
}

/** Web that gives a coverage: (X−(n−1)g)(Y−(r−1)g) = coverage·Lx·Ly, the smaller root.
 * @param coverage open share, 0.1 to 0.95
 * @returns null where that many windows cannot give it
 */
export function paneForCoverage(
	padXMm: number,
	padYMm: number,
	marginMm: number,
	columns: number,
	rows: number,
	coverage: number
): WindowPane | null {
	requireRange('coverage', coverage, 0.1, 0.95);
	requireRange('padXMm', padXMm, 0.5, 50, 'mm');
	requireRange('padYMm', padYMm, 0.5, 50, 'mm');
	const [x, y] = [padXMm - 2 * marginMm, padYMm - 2 * marginMm];
	const [n, r] = [columns - 1, rows - 1];
	const open = coverage * padXMm * padYMm;
	let webMm: number;
	if (n === 0 && r === 0) return x * y >= open ? paneFromWeb(padXMm, padYMm, marginMm, 1, 1, 0) : null;
	const [a, b, c] = [n * r, -(n * y + r * x), x * y - open];
	if (c < 0) return null;
	if (a === 0) webMm = -c / b;
	else {
		const root = b * b - 4 * a * c;
		if (root < 0) return null;
		webMm = (-b - Math.sqrt(root)) / (2 * a);
	}
	if (!(webMm >= 0)) return null;
	const [windowX, windowY] = [(x - n * webMm) / columns, (y - r * webMm) / rows];
	return windowX > 0 && windowY > 0 ? { columns, rows, webMm, windowXMm: windowX, windowYMm: windowY, coverage } : null;
}

/** The panes of 1 to 8 by 1 to 8 windows that keep to the usual sizes, squarest windows first.
 * @see common practice: coverage 50 to 80 %, web at least 0.2 mm, windows 0.6 to 2.0 mm
 */
export function windowPanes(padXMm: number, padYMm: number, marginMm = 0.1, coverage = 0.6): WindowPane[] {
	const out: WindowPane[] = [];
	for (let columns = 1; columns <= 8; columns++)
		for (let rows = 1; rows <= 8; rows++) {
			const pane = paneForCoverage(padXMm, padYMm, marginMm, columns, rows, coverage);
			if (!pane) continue;
			const fits = (v: number) => atLeast(v, 0.6) && atMost(v, 2);
			if ((columns * rows === 1 || atLeast(pane.webMm, 0.2)) && fits(pane.windowXMm) && fits(pane.windowYMm)) out.push(pane);
		}
	const slim = (p: WindowPane) => Math.abs(Math.log(p.windowXMm / p.windowYMm));
	return out.sort((a, b) => slim(a) - slim(b) || a.columns * a.rows - b.columns * b.rows);
}

/** Where the windows lie, from the pad's lower left corner: corners of each, mm. */
export function paneWindows(pane: WindowPane, marginMm: number): { x: number; y: number; widthMm: number; heightMm: number }[] {
	return Array.from({ length: pane.columns * pane.rows }, (_, i) => ({
		x: marginMm + (i % pane.columns) * (pane.windowXMm + pane.webMm),
		y: marginMm + Math.floor(i / pane.columns) * (pane.windowYMm + pane.webMm),
		widthMm: pane.windowXMm,
		heightMm: pane.windowYMm
	}));
}

/** Cross-section of a pin, mm²: round, or rectangular where the other side is given. */
export function pinAreaMm2(aMm: number, bMm: number | null = null): number {
	return bMm === null ? (Math.PI * aMm * aMm) / 4 : aMm * bMm;
}

/** Paste for a pin in paste: metal = (hole − pin area)·board + fillets, paste = metal/φ.
 * @param pinAreaMm2 cross-section of the pin
 * @param metalShare of the paste's volume; half of what is printed vanishes at reflow
 * @returns mm³
 * @throws {InputError} where the pin does not fit the hole
 */
export function pinInPaste(
	holeMm: number,
	pinAreaMm2: number,
	boardMm: number,
	filletsMm3: number,
	metalShare: number
): { metalMm3: number; pasteMm3: number } {
	requireRange('metalShare', metalShare, 0.3, 0.7);
	requireRange('boardMm', boardMm, 0.2, 10, 'mm');
	const gap = (Math.PI * holeMm * holeMm) / 4 - pinAreaMm2;
	if (!(gap > 0))
		throw new InputError('mismatch', 'pinAreaMm2', `less than the hole's ${((Math.PI * holeMm * holeMm) / 4).toFixed(3)} mm²`, pinAreaMm2);
	if (!(filletsMm3 >= 0)) throw new InputError('out-of-range', 'filletsMm3', '0 mm³ or more', filletsMm3);
	const metalMm3 = gap * boardMm + filletsMm3;
	return { metalMm3, pasteMm3: metalMm3 / metalShare };
}
