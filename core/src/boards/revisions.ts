import type { Level, Verdict } from '../judgement/index.ts';
import { median } from '../numerics/index.ts';
import { sameValue, VALUE_KINDS, type ValueKind } from '../parts/index.ts';

/** A part of a board revision, as its files say. */
export interface RevisedPart {
	refDes: string;
	partNumber: string;
	value: string;
	packageName: string;
	side: 'top' | 'bottom';
	xMm: number;
	yMm: number;
	rotationDeg: number;
	fitted: boolean;
}

/** What can change of a part from one revision to the next. What nobody sees on the drawing comes first: it is what escapes. */
export const REVISION_CHANGES = ['value', 'partNumber', 'turned', 'package', 'side', 'swapped', 'moved', 'added', 'removed'] as const;
export type RevisionChangeKind = (typeof REVISION_CHANGES)[number];

export interface RevisionChange {
	refDes: string;
	kind: RevisionChangeKind;
	/** Empty where it was not there. */
	was: string;
	/** Empty where it is no longer there. */
	now: string;
	/** Where it stands in the new files; of a part that was taken out, where it would. */
	at: { side: RevisedPart['side']; xMm: number; yMm: number };
}

export interface RevisionComparison {
	/** Sorted by kind, then designator. A part may stand there more than once. */
	changes: RevisionChange[];
	/** Parts that are what and where they were. */
	same: number;
	/** How the whole board lies in the new files against the old: another origin or another turn is no change of its parts. */
	frame: { dxMm: number; dyMm: number; turnDeg: number };
	verdict: Verdict;
}

/** What stands on no drawing has to be acted on. */
export const changeLevel = ({ kind }: Pick<RevisionChange, 'kind'>): Level => (standsOnNoDrawing(kind) ? 'act' : 'watch');

/** A part has moved if it lies further from where it was, mm [ours]. */
export const MOVED_MM = 0.05;
/** A part is turned if its angle differs by more, ° [ours]. */
export const TURNED_DEG = 0.5;
/** With fewer parts in both revisions the frame is not looked for. */
const LEAST_FOR_FRAME = 3;

/** Whether nobody sees such a change on the drawing: the same pads, another part. */
const standsOnNoDrawing = (kind: RevisionChangeKind): boolean => kind === 'value' || kind === 'partNumber' || kind === 'turned';

/** To −180 up to 180, ° */
const around = (deg: number) => ((((deg + 180) % 360) + 360) % 360) - 180;

interface Frame {
	cos: number;
	sin: number;
	turnDeg: number;
	dxMm: number;
	dyMm: number;
}
type Pair = [was: RevisedPart, now: RevisedPart];

/** Turned about the origin, then moved by what half of the parts at least agree on: one that moved does not shift the rest. */
function frameOf(pairs: readonly Pair[], turnDeg: number): Frame {
	const quarter = turnDeg % 90 === 0;
	const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)].map((v) =>
		quarter ? Math.round(v) : v
	) as [number, number];
	return {
		cos,
		sin,
		turnDeg,
		dxMm: median(pairs.map(([was, now]) => now.xMm - (cos * was.xMm - sin * was.yMm))),
		dyMm: median(pairs.map(([was, now]) => now.yMm - (sin * was.xMm + cos * was.yMm)))
	};
}

const placed = ({ cos, sin, dxMm, dyMm }: Frame, { xMm, yMm }: RevisedPart) => ({
	x: cos * xMm - sin * yMm + dxMm,
	y: sin * xMm + cos * yMm + dyMm
});
const apartMm = (frame: Frame, was: RevisedPart, now: RevisedPart): number => {
	const { x, y } = placed(frame, was);
	return Math.hypot(now.xMm - x, now.yMm - y);
};
const turnedBy = (frame: Frame, was: RevisedPart, now: RevisedPart) => around(now.rotationDeg - was.rotationDeg - frame.turnDeg);

/** How the board lies in the new files: as before, or turned as most of its parts are, whichever leaves more parts where they were. */
function frameFor(pairs: readonly Pair[]): Frame {
	const none: Frame = { cos: 1, sin: 0, turnDeg: 0, dxMm: 0, dyMm: 0 };
	if (pairs.length < LEAST_FOR_FRAME) return none;
	const counts = new Map<number, number>();
	for (const [was, now] of pairs) {
		const deg = Math.round(around(now.rotationDeg - was.rotationDeg) * 10) / 10;
		counts.set(deg, (counts.get(deg) ?? 0) + 1);
	}
	const [usual] = [...counts].sort((a, b) => b[1] - a[1] || Math.abs(a[0]) - Math.abs(b[0]))[0]!;
	const still = (frame: Frame) =>
		pairs.filter(([was, now]) => apartMm(frame, was, now) <= MOVED_MM && Math.abs(turnedBy(frame, was, now)) <= TURNED_DEG).length;
	const [asBefore, turned] = [frameOf(pairs, 0), frameOf(pairs, usual)];
	return still(turned) > still(asBefore) ? turned : asBefore;
}

/** Finds the part that stands where another was, and the other way round. Looked up by place, so that a board whose parts have all moved takes no longer. */
function swapsAmong(moved: readonly Pair[], frame: Frame): (pair: Pair) => Pair | undefined {
	const cell = (mm: number) => Math.floor(mm / (2 * MOVED_MM));
	const standing = new Map<string, Pair[]>();
	for (const pair of moved) {
		const key = `${cell(pair[1].xMm)} ${cell(pair[1].yMm)}`;
		const there = standing.get(key);
		if (there) there.push(pair);
		else standing.set(key, [pair]);
	}
	return (pair) => {
		const { x, y } = placed(frame, pair[0]);
		for (const dx of [-1, 0, 1])
			for (const dy of [-1, 0, 1]) {
				const other = standing
					.get(`${cell(x) + dx} ${cell(y) + dy}`)
					?.find((of) => of !== pair && apartMm(frame, pair[0], of[1]) <= MOVED_MM && apartMm(frame, of[0], pair[1]) <= MOVED_MM);
				if (other) return other;
			}
		return undefined;
	};
}

const kindOf = (refDes: string): ValueKind | null => VALUE_KINDS.find((kind) => new RegExp(`^${kind}\\d`).test(refDes)) ?? null;

function valueChanged(was: RevisedPart, now: RevisedPart): boolean {
	const kind = kindOf(now.refDes);
	return kind ? !sameValue(was.value, now.value, kind) : was.value.trim() !== now.value.trim();
}

const at = ({ xMm, yMm }: RevisedPart) => `${xMm.toFixed(2)}, ${yMm.toFixed(2)} mm`;

/** What has changed from one revision of a board to the next: by designators, parts that are not fitted left out. Another origin or turn of the whole board is
 * found and taken out first.
 * @see common practice: a changed value on an unchanged drawing is the change that escapes
 */
export function compareRevisions(before: readonly RevisedPart[], after: readonly RevisedPart[]): RevisionComparison {
	const was = new Map(before.filter((p) => p.fitted).map((p) => [p.refDes, p]));
	const now = new Map(after.filter((p) => p.fitted).map((p) => [p.refDes, p]));
	const pairs = [...was].flatMap(([refDes, old]): Pair[] => (now.has(refDes) ? [[old, now.get(refDes)!]] : []));
	const onSameSide = pairs.filter(([old, part]) => old.side === part.side);
	const frame = frameFor(onSameSide);
	const moved = onSameSide.filter(([old, part]) => apartMm(frame, old, part) > MOVED_MM);
	const away = new Set(moved);
	const swapped = swapsAmong(moved, frame);

	const changes: RevisionChange[] = [];
	const change = (kind: RevisionChangeKind, { refDes, side, xMm, yMm }: RevisedPart, old: string, part: string) =>
		changes.push({ refDes, kind, was: old, now: part, at: { side, xMm, yMm } });
	for (const [refDes, old] of was) {
		if (now.has(refDes)) continue;
		const { x, y } = placed(frame, old);
		change('removed', { ...old, xMm: x, yMm: y }, `${old.partNumber} ${old.value}`.trim(), '');
	}
	for (const [refDes, part] of now) if (!was.has(refDes)) change('added', part, '', `${part.partNumber} ${part.value}`.trim());
	for (const pair of pairs) {
		const [old, part] = pair;
		if (valueChanged(old, part)) change('value', part, old.value, part.value);
		if (old.partNumber !== part.partNumber) change('partNumber', part, old.partNumber, part.partNumber);
		if (old.packageName !== part.packageName) change('package', part, old.packageName, part.packageName);
		if (old.side !== part.side) {
			change('side', part, old.side, part.side);
			continue;
		}
		const turn = turnedBy(frame, old, part);
		if (Math.abs(turn) > TURNED_DEG) change('turned', part, `${old.rotationDeg}°`, `${part.rotationDeg}°`);
		if (!away.has(pair)) continue;
		const other = swapped(pair);
		if (other) change('swapped', part, at(old), `where ${other[0].refDes} was`);
		else change('moved', part, at(old), `${at(part)}, ${apartMm(frame, old, part).toFixed(2)} mm away`);
	}
	changes.sort(
		(a, b) =>
			REVISION_CHANGES.indexOf(a.kind) - REVISION_CHANGES.indexOf(b.kind) || a.refDes.localeCompare(b.refDes, 'en', { numeric: true })
	);
	const touched = new Set(changes.map((c) => c.refDes));
	const same = pairs.filter(([, part]) => !touched.has(part.refDes)).length;
	const { dxMm, dyMm, turnDeg } = frame;
	return { changes, same, frame: { dxMm, dyMm, turnDeg }, verdict: judgeChanges(changes, same) };
}

function judgeChanges(changes: readonly RevisionChange[], same: number): Verdict {
	const drawn = new Set(changes.filter(({ kind }) => !standsOnNoDrawing(kind)).map(({ refDes }) => refDes));
	const unseen = changes.filter(({ kind, refDes }) => standsOnNoDrawing(kind) && !drawn.has(refDes));
	const parts = new Set(changes.map(({ refDes }) => refDes)).size;
	const because = REVISION_CHANGES.flatMap((kind) => {
		const count = changes.filter((c) => c.kind === kind).length;
		return count ? [{ quantity: WORDS[kind], value: count, unit: '', limit: null, source: 'both revisions by designator' }] : [];
	});
	const [first] = unseen;
	if (first)
		return {
			level: 'act',
			statement: `${unseen.length} ${unseen.length === 1 ? 'change stands' : 'changes stand'} on no drawing: ${first.refDes} ${first.was || 'nothing'} → ${first.now || 'nothing'}${unseen.length > 1 ? ' first' : ''}.`,
			because,
			doNext: ['Show each of them to whoever loads and inspects']
		};
	if (parts)
		return {
			level: 'watch',
			statement: `${parts} ${parts === 1 ? 'part has' : 'parts have'} changed, all to be seen on the drawing; ${same} are as they were.`,
			because,
			doNext: []
		};
	return { level: 'good', statement: `All ${same} parts are what and where they were.`, because, doNext: [] };
}

const WORDS: Record<RevisionChangeKind, string> = {
	value: 'Values changed',
	partNumber: 'Part numbers changed',
	turned: 'Turned',
	package: 'Packages changed',
	side: 'Sides changed',
	swapped: 'Swapped',
	moved: 'Moved',
	added: 'Added',
	removed: 'Removed'
};
