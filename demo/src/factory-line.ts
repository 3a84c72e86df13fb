const cooling = (...airC: number[]) => airC.map((c) => ({ lengthM: 0.4, airC: c }));

const OVEN_LIMITS = {
	entryM: 0.3,
	entryShare: 0.1,
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 55,
	beltMinCmPerMin: 20,
	beltMaxCmPerMin: 140
};

/** A flexible placer: slower, takes everything. */
const flexible = (name: string, slots: number) => ({
	name,
	slots,
	slotPitchMm: 14,
	cameraSlot: Math.round(slots * 0.44),
	onTheFly: false,
	spindles: 6,
	headPitchMm: 28,
	x: { vMmS: 1500, aMmS2: 15000 },
	y: { vMmS: 1500, aMmS2: 14000 },
	pickS: 0.06,
	placeS: 0.07,
	cameraS: 0.28,
	transferS: 3.5,
	fiducialS: 0.4,
	accuracyUm: 25,
	accuracySigmas: 3,
	smallestMm: 0.3,
	largestMm: 55,
	tallestMm: 20,
	finestPitchMm: 0.3,
	trays: true
});

/** The demo's first line, the fast one: two placers of different capability, optical inspection before and after an oven of ten zones.
 * Invented machines with figures in the usual ranges.
 */
const FIRST_LINE = {
	name: 'Line 1',
	stations: [
		{ role: 'print', name: 'Print', spec: { cycleS: 19, frame: '736 × 736 mm, glued' } },
		{ role: 'pasteCheck', name: 'Paste check', spec: { cycleS: 17 } },
		{
			role: 'place',
			name: 'Place 1',
			spec: {
				placer: {
					name: 'Place 1',
					slots: 60,
					slotPitchMm: 14,
					cameraSlot: 24,
					onTheFly: true,
					spindles: 12,
					headPitchMm: 14,
					x: { vMmS: 2000, aMmS2: 25000 },
					y: { vMmS: 2000, aMmS2: 22000 },
					pickS: 0.035,
					placeS: 0.035,
					cameraS: 0,
					transferS: 3.2,
					fiducialS: 0.35,
					accuracyUm: 55,
					accuracySigmas: 3,
					smallestMm: 0.25,
					largestMm: 7,
					tallestMm: 3,
					finestPitchMm: 0.5,
					trays: false
				}
			}
		},
		{
			role: 'place',
			name: 'Place 2',
			spec: {
				placer: flexible('Place 2', 50)
			}
		},
		{ role: 'optical', name: 'Pre-oven', spec: { cycleS: 14 } },
		{
			role: 'oven',
			name: 'Oven',
			spec: {
				gapMm: 60,
				oven: {
					zoneM: [0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35],
					cooling: cooling(90, 45),
					...OVEN_LIMITS
				}
			}
		},
		{ role: 'optical', name: 'Optical', spec: { cycleS: 16 } },
		{ role: 'inCircuit', name: 'In-circuit', spec: { cycleS: 21 } }
	]
};

/** High mix: one flexible placer and an oven of seven zones, the last two short. */
const SECOND_LINE = {
	name: 'Line 2',
	stations: [
		{ role: 'print', name: 'Print', spec: { cycleS: 24, frame: '736 × 736 mm, glued' } },
		{ role: 'pasteCheck', name: 'Paste check', spec: { cycleS: 22 } },
		{ role: 'place', name: 'Place', spec: { placer: flexible('Place', 80) } },
		{
			role: 'oven',
			name: 'Oven',
			spec: {
				gapMm: 80,
				oven: { zoneM: [0.42, 0.42, 0.36, 0.36, 0.36, 0.28, 0.28], cooling: cooling(80, 45), ...OVEN_LIMITS }
			}
		},
		{ role: 'optical', name: 'Optical', spec: { cycleS: 24 } },
		{ role: 'inCircuit', name: 'In-circuit', spec: { cycleS: 28 } }
	]
};

/** Prototypes: short, slow, an oven of five zones, no test. */
const THIRD_LINE = {
	name: 'Prototypes',
	stations: [
		{ role: 'print', name: 'Print', spec: { cycleS: 40, frame: '584 × 584 mm, glued' } },
		{ role: 'pasteCheck', name: 'Paste check', spec: { cycleS: 35 } },
		{ role: 'place', name: 'Place', spec: { placer: { ...flexible('Place', 48), spindles: 3, placeS: 0.11, transferS: 6 } } },
		{
			role: 'oven',
			name: 'Oven',
			spec: { gapMm: 120, oven: { zoneM: [0.4, 0.35, 0.3, 0.3, 0.3], cooling: cooling(70), ...OVEN_LIMITS } }
		},
		{ role: 'optical', name: 'Optical', spec: { cycleS: 40, frame: '584 × 584 mm, glued' } }
	]
};

export const LINES = [FIRST_LINE, SECOND_LINE, THIRD_LINE];
