import { requireRange } from '../judgement/index.ts';
import type { PackageRecord } from '../parts/index.ts';
import { nozzleFor, type Nozzle } from './machine.ts';

/** How fast a nozzle may move a part sideways before it slips, mm/s²: µ·Δp·(π d²/4)/(m·S).
 * @param vacuumKPa 45 to 65 kPa; @param friction 0.25 to 0.3 on moulded bodies; @param safety 2 to 2.5 (common practice)
 * @example holdLimitMmS2({ vacuumKPa: 60, boreMm: 5, massG: 8, friction: 0.3, safety: 2 }) // => 22089.3
 */
export function holdLimitMmS2(of: { vacuumKPa: number; boreMm: number; massG: number; friction: number; safety: number }): number {
	requireRange('vacuumKPa', of.vacuumKPa, 1, 101, 'kPa');
	requireRange('boreMm', of.boreMm, 0.05, 60, 'mm');
	requireRange('massG', of.massG, 1e-6, 500, 'g');
	requireRange('friction', of.friction, 0.01, 1.5);
	requireRange('safety', of.safety, 1, 10);
	const forceN = of.friction * of.vacuumKPa * 1000 * ((Math.PI * (of.boreMm / 1000) ** 2) / 4);
	return (1000 * forceN) / ((of.massG / 1000) * of.safety);
}

/** What holds a part on its tip (vacuum and friction common practice, bores ours): each machine's papers say their own. */
const HOLD = { vacuumKPa: 55, friction: 0.25, safety: 2.5 } as const;
const BORE_MM = { small: 0.3, medium: 1 } as const;
/** A large tip is as wide as the flat top lets it be, mm. */
const LARGE_BORE = { leastMm: 1.5, mostMm: 8, ofShorter: 0.5 } as const;

/** How fast a part may be moved sideways on its tip, mm/s²; null where its mass is unknown. */
export function holdOf(body: PackageRecord, nozzle: Nozzle = nozzleFor(body)): number | null {
	if (!body.massG) return null;
	const shorter = Math.min(body.lengthMm ?? 3, body.widthMm ?? 3);
	const boreMm =
		nozzle === 'large' ? Math.min(LARGE_BORE.mostMm, Math.max(LARGE_BORE.leastMm, LARGE_BORE.ofShorter * shorter)) : BORE_MM[nozzle];
	return holdLimitMmS2({ ...HOLD, boreMm, massG: body.massG });
}
