import { cornerFiducials, placesFromCorner, readOutlineLayer, type Aperture, type CircuitGuess } from '../artwork/index.ts';
import { boxOf } from '../geometry/index.ts';
import { hasErrors, type Issue } from '../judgement/index.ts';
import { problem, textOf, type BoardFiles, type Reading } from './files.ts';

const MOST_LISTED = 200;
/** Room around the openings of a circuit where its own size is not typed, mm. */
const CIRCUIT_MARGIN_MM = 2;

/** One circuit cut out of a panel's layer, with the panel it came from. The panel's edge is the outline layer, or the openings' own box. */
export function cutCircuit(files: BoardFiles, apertures: readonly Aperture[], guess: CircuitGuess, reading: Reading, issues: Issue[]) {
	if (guess.kind !== 'panel') {
		issues.push(problem(files.paste.name, 'content', 'panel', `No circuits repeat in this layer. ${guess.because} Choose "one circuit".`));
		return null;
	}
	for (const i of guess.left.slice(0, MOST_LISTED)) {
		const { centre, line } = apertures[i]!;
		issues.push({
			severity: 'warning',
			code: 'no_circuit',
			file: files.paste.name,
			line,
			field: 'opening',
			value: String(i + 1),
			message: `Opening ${i + 1} at ${centre.x.toFixed(2)}, ${centre.y.toFixed(2)} mm of the panel belongs to no circuit: a mark, a coupon, or a rail?`
		});
	}
	const outer = files.outline ? sizeOf(files, reading, issues) : null;
	if (files.outline && !outer) return null;
	const members = guess.members.map((i) => apertures[i]!);
	const box = boxOf(members.flatMap((a) => a.outline));
	const margin = (typed: number | null, drawn: number) => (typed === null ? CIRCUIT_MARGIN_MM : (typed - drawn) / 2);
	const [mx, my] = [margin(files.widthMm, box.maxX - box.minX), margin(files.heightMm, box.maxY - box.minY)];
	if (mx < 0 || my < 0) {
		issues.push(
			problem('', 'width and height', `${files.widthMm} x ${files.heightMm} mm`, 'The circuit’s openings do not fit its width and height.')
		);
		return null;
	}
	const corner = { x: box.minX - mx, y: box.minY - my };
	const all = boxOf(apertures.flatMap((a) => a.outline));
	const edge = outer
		? { x: -outer.shift.x, y: -outer.shift.y, widthMm: outer.widthMm, heightMm: outer.heightMm }
		: { x: all.minX - 5, y: all.minY - 5, widthMm: all.maxX - all.minX + 10, heightMm: all.maxY - all.minY + 10 };
	const [widthMm, heightMm] = [box.maxX - box.minX + 2 * mx, box.maxY - box.minY + 2 * my].map((v) => Math.round(v * 1e4) / 1e4);
	const circuits = placesFromCorner(guess, corner).map((place) => ({ ...place, x: place.x - edge.x, y: place.y - edge.y }));
	const free = { widthMm: edge.widthMm, heightMm: edge.heightMm, circuits };
	return {
		widthMm: widthMm!,
		heightMm: heightMm!,
		shift: { x: -corner.x, y: -corner.y },
		apertures: members.map((a, index) => ({ ...a, index })),
		panel: { rows: 1, columns: 1, pitchXMm: 0, pitchYMm: 0, railMm: 0, fiducials: cornerFiducials(free, 5), free }
	};
}

/** Width, height and corner of what the files draw: from the outline layer, or as typed. */
export function sizeOf(files: BoardFiles, reading: Reading, issues: Issue[]) {
	if (files.outline) {
		const text = textOf(files.outline, reading);
		if (text === null) return null;
		const { box, issues: found } = readOutlineLayer(text, files.layerUnit);
		reading.note(files.outline, found);
		if (!box || hasErrors(found)) return null;
		return { widthMm: box.maxX - box.minX, heightMm: box.maxY - box.minY, shift: { x: -box.minX, y: -box.minY } };
	}
	const { widthMm, heightMm } = files;
	if (widthMm === null || heightMm === null) {
		issues.push(problem('', 'width and height', '', 'Give the board’s width and height, or its outline layer.'));
		return null;
	}
	for (const [field, value] of [
		['width', widthMm],
		['height', heightMm]
	] as const)
		if (!(value >= 5 && value <= 600)) {
			issues.push(problem('', field, String(value), `The ${field} of ${value} mm is not between 5 and 600 mm.`));
			return null;
		}
	return { widthMm, heightMm, shift: { x: 0, y: 0 } };
}
