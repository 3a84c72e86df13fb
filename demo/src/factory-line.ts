/** The demo's line: two placers of different capability and an oven of ten zones. Invented machines with figures in the usual ranges. */
export const FIRST_LINE = {
	name: 'Line 1',
	stations: [
		{ role: 'print', name: 'Print', spec: { cycleS: 19 } },
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
				placer: {
					name: 'Place 2',
					slots: 50,
					slotPitchMm: 14,
					cameraSlot: 22,
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
				}
			}
		},
		{
			role: 'oven',
			name: 'Oven',
			spec: {
				gapMm: 60,
				oven: {
					zoneM: [0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35],
					entryM: 0.3,
					entryShare: 0.1,
					cooling: [
						{ lengthM: 0.4, airC: 90 },
						{ lengthM: 0.4, airC: 45 }
					],
					ambientC: 25,
					borderM: 0.1,
					setMinC: 60,
					setMaxC: 300,
					stepMaxC: 55,
					beltMinCmPerMin: 30,
					beltMaxCmPerMin: 140
				}
			}
		},
		{ role: 'optical', name: 'Optical', spec: { cycleS: 16 } },
		{ role: 'inCircuit', name: 'In-circuit', spec: { cycleS: 21 } }
	]
};
