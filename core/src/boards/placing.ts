import {
	chooseAngleRule,
	partsOverPaste,
	registeredRow,
	registerToArtwork,
	seenPoint,
	seenRow,
	type Aperture,
	type PlacedRow,
	type Registration
} from '../artwork/index.ts';
import type { Point } from '../geometry/index.ts';
import type { Issue } from '../judgement/index.ts';
import type { PackageReader } from '../parts/index.ts';
import type { LengthUnit } from '../units/index.ts';
import { problem, type BoardFiles } from './files.ts';

export function movedAperture(a: Aperture, dx: number, dy: number): Aperture {
	const round = (v: number) => Math.round(v * 1e5) / 1e5;
	return {
		...a,
		centre: { x: round(a.centre.x + dx), y: round(a.centre.y + dy) },
		outline: a.outline.map((p) => ({ x: round(p.x + dx), y: round(p.y + dy) }))
	};
}

/** Brings positions onto the openings: unit, mirror and origin are voted for, and what was found is said. */
export function register(
	rows: readonly PlacedRow[],
	apertures: readonly Aperture[],
	unit: LengthUnit | null,
	read: PackageReader,
	files: BoardFiles,
	issues: Issue[]
): { rows: PlacedRow[]; registration: Registration | null } | null {
	if (rows.length === 0 || apertures.length === 0) return { rows: [...rows], registration: null };
	// Rows already stand in mm where the file said its unit.
	const { best, tried } = registerToArtwork(
		rows,
		apertures.map((a) => a.centre),
		unit ? ['mm'] : ['mm', 'mil', 'inch']
	);
	const fitOf = (answer: Registration): UnitFit => ({
		unit: answer.unit,
		...partsOverPaste(
			rows.map((row) => registeredRow(row, answer)),
			apertures,
			read
		)
	});
	if (!best) {
		const top = tried[0];
		const share = top ? `${Math.round(top.share * 100)} %` : 'none';
		if (!unit) {
			issues.push({
				...problem(
					files.positions.name,
					'unit',
					'',
					`The position file does not say its unit: ${fitWords(bestByUnit(tried).map(fitOf))}. Choose the unit.`
				),
				code: 'needs_units'
			});
			return null;
		}
		issues.push({
			severity: 'warning',
			code: 'not_registered',
			file: files.positions.name,
			field: 'origin',
			value: share,
			message: `Only ${share} of the parts meet the paste with any moved origin: the files may be of different revisions. Positions are used as they are.`
		});
		return { rows: [...rows], registration: null };
	}
	const said = [
		...(unit ? [] : [`unit ${best.unit}`]),
		...(best.mirrored ? ['x mirrored'] : []),
		...(best.offset.x || best.offset.y ? [`origin moved by ${best.offset.x.toFixed(3)}, ${best.offset.y.toFixed(3)} mm`] : [])
	];
	if (said.length)
		issues.push({
			severity: 'warning',
			code: 'registered',
			file: files.positions.name,
			field: 'origin',
			value: said.join(', '),
			message: `Positions were brought onto the paste: ${said.join(', ')}; ${fitWords([fitOf(best)])}.`
		});
	return {
		rows: rows.map((row) => registeredRow(row, best)),
		registration: best
	};
}

/** How many parts lie on their pads when the numbers are read in a unit. */
interface UnitFit {
	unit: LengthUnit;
	onPads: number;
	parts: number;
}

/** The best answer in each unit. */
function bestByUnit(tried: readonly Registration[]): Registration[] {
	const best = new Map<LengthUnit, Registration>();
	for (const answer of tried) if (answer.share > (best.get(answer.unit)?.share ?? -1)) best.set(answer.unit, answer);
	return [...best.values()];
}

/** "In mil 282 of 282 parts lie on their pads, in mm 3". */
function fitWords(fits: readonly UnitFit[]): string {
	const sorted = [...fits].sort((a, b) => b.onPads - a.onPads);
	const [first, ...others] = sorted;
	if (!first) return 'It has too few parts to try its numbers on the paste';
	const rest = others.map((f) => `, in ${f.unit} ${f.onPads}`).join('');
	return `in ${first.unit} ${first.onPads} of ${first.parts} parts lie on their pads${rest}`;
}

/** Turns a bottom side to what the machine sees: x' = W − x; the rule of its angles is chosen by test, and said. */
export function asSeen(
	drawn: readonly Aperture[],
	rows: readonly PlacedRow[],
	widthMm: number,
	read: PackageReader,
	files: BoardFiles,
	issues: Issue[]
): { apertures: Aperture[]; rows: PlacedRow[] } {
	const flip = (p: Point) => seenPoint(p, 'bottom', widthMm);
	// A mirrored ring runs the other way round: reversed, it keeps its sense.
	const apertures = drawn.map((a) => ({ ...a, centre: flip(a.centre), outline: a.outline.map(flip).reverse() }));
	const bodies = rows.map((row) => ({ ...row, xMm: widthMm - row.xMm, body: read(row.packageName) }));
	const { rule, caught } = chooseAngleRule(
		bodies.map((row) => ({ ...row, lengthMm: row.body.lengthMm ?? 0, widthMm: row.body.widthMm ?? 0 })),
		apertures.map((a) => a.centre)
	);
	const decided = new Set(Object.values(caught)).size > 1;
	issues.push({
		severity: 'warning',
		code: 'angle_rule',
		file: files.positions.name,
		field: 'rotation',
		value: rule,
		message: decided
			? `The bottom is turned to what the machine sees; angles are taken ${ANGLE_WORDS[rule]}: ${caught[rule]} openings lie under bodies turned so. Bodies look alike after half a turn: check one polarised part.`
			: `The bottom is turned to what the machine sees; nothing tells how its angles were drawn, so they are taken ${ANGLE_WORDS[rule]}. Check one polarised part.`
	});
	return { apertures, rows: rows.map((row) => seenRow(row, widthMm, rule)) };
}

const ANGLE_WORDS = {
	asSeen: 'as seen from below',
	negate: 'as drawn through the board, with the sign turned',
	supplement: 'as mirrored about the other axis, 180° less the angle'
};

const OFF_BOARD_MM = 2;

/** Parts that lie off the board: a wrong origin or unit. */
export function offBoard(rows: readonly PlacedRow[], size: { widthMm: number; heightMm: number }, file: string): Issue[] {
	return rows
		.filter(
			(row) =>
				row.xMm < -OFF_BOARD_MM ||
				row.yMm < -OFF_BOARD_MM ||
				row.xMm > size.widthMm + OFF_BOARD_MM ||
				row.yMm > size.heightMm + OFF_BOARD_MM
		)
		.map((row) => ({
			severity: 'error',
			code: 'off_board',
			file,
			line: row.line,
			field: 'X, Y',
			value: `${row.xMm.toFixed(2)}, ${row.yMm.toFixed(2)} mm`,
			message: `Line ${row.line}: ${row.refDes} lies off the board of ${size.widthMm.toFixed(1)} x ${size.heightMm.toFixed(1)} mm. Check origin and unit.`
		}));
}
