import { medianInPlace } from '../../numerics/index.ts';
import type { Signature } from './signature.ts';
import type { SignatureRun } from './run.ts';
import type { SignatureThresholds } from './thresholds.ts';

/** Share of the bridges that must lie late before a wipe, and how sure that must be, for the wipe to be their cause. */
const LATE_SHARE = 0.75;
const LATE_Z = 3;

/** How many bridges a run has and whether they gather before the wipes; null where they are too few to ask why. */
export function bridgesOf(run: SignatureRun, th: SignatureThresholds) {
	if (!run.bridges) return null;
	const total = run.bridges.reduce((a, b) => a + b, 0);
	const size = total / run.panels.length;
	const panels = run.bridges.flatMap((b, m) => (b > 0 ? [m] : []));
	if (size < th.bridgesPerPanel || panels.length < th.bridgePanels) return null;
	const middle = medianInPlace(Float64Array.from(run.panels, (m) => m.printsSinceWipe));
	const late = run.bridges.reduce((sum, b, m) => sum + (run.panels[m]!.printsSinceWipe > middle ? b : 0), 0);
	const expected = run.panels.filter((m) => m.printsSinceWipe > middle).length / run.panels.length;
	const z = (late - total * expected) / Math.sqrt(total * expected * (1 - expected) || 1);
	return {
		finding: { size, error: Math.sqrt(total) / run.panels.length, where: { panels } },
		words: `${size.toFixed(1)} bridges a panel on ${panels.length} panels`,
		lateShare: late / total,
		z,
		lateBeforeWipe: late / total >= LATE_SHARE && z >= LATE_Z
	};
}

/** What was found of the alignment: it explains bridges. */
export function misalignment(found: readonly Signature[]): Signature | undefined {
	return found.find(({ code }) => code === 'ALIGN_SHIFT' || code === 'ALIGN_ROTATION' || code === 'ALIGN_STRETCH');
}
