import type { PackageRecord } from './package.ts';

/** What is known of a part where one is to stand for another. */
export interface AlternateSide {
	partNumber: string;
	/** Null where no board and no reel says it. */
	packageName: string | null;
	body: Pick<PackageRecord, 'kind' | 'heightMm' | 'pitchMm'> | null;
	/** Of its reels: how pin 1 lies in the tape, and its moisture level. */
	quadrant: number | null;
	moistureLevel: string | null;
}

/** What speaks against a part that is to stand for another, and what differs: an alternate shares the footprint (common practice); height, the way that it
 * lies in the tape and moisture are to be known before.
 * @returns `refused`: why it may not; `differs`: what whoever approves it has to know
 */
export function compareAlternate(part: AlternateSide, other: AlternateSide): { refused: string | null; differs: string[] } {
	if (part.partNumber === other.partNumber) return { refused: `${part.partNumber} is the same part.`, differs: [] };
	if (part.packageName && other.packageName && part.packageName !== other.packageName)
		return {
			refused: `${other.partNumber} has another footprint: ${other.packageName}, where ${part.partNumber} has ${part.packageName}.`,
			differs: []
		};
	const differs: string[] = [];
	if (!other.packageName) differs.push(`nobody said yet which package ${other.partNumber} has`);
	const [height, otherHeight] = [part.body?.heightMm ?? null, other.body?.heightMm ?? null];
	if (height !== null && otherHeight !== null && Math.abs(otherHeight - height) > 1e-9)
		differs.push(`it is ${otherHeight} mm high, not ${height} mm`);
	if (part.quadrant !== null && other.quadrant !== null && part.quadrant !== other.quadrant)
		differs.push(`pin 1 lies in quadrant ${other.quadrant} of its tape, not in ${part.quadrant}: it would be placed turned`);
	if (part.moistureLevel !== null && other.moistureLevel !== null && part.moistureLevel !== other.moistureLevel)
		differs.push(`its moisture level is ${other.moistureLevel}, not ${part.moistureLevel}`);
	return { refused: null, differs };
}
