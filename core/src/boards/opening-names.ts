import type { Aperture } from '../artwork/index.ts';

/** Names of the openings of a side: "U7 pin 23" where the pin is known, else "U7 opening 4", counted in the order of the file. */
export function openingNames(apertures: readonly Pick<Aperture, 'refDes' | 'pin' | 'index'>[]): string[] {
	const counts = new Map<string, number>();
	return apertures.map((a) => {
		if (!a.refDes) return `opening ${a.index + 1}`;
		if (a.pin) return `${a.refDes} pin ${a.pin}`;
		const n = (counts.get(a.refDes) ?? 0) + 1;
		counts.set(a.refDes, n);
		return `${a.refDes} opening ${n}`;
	});
}

/** The sizes of a side's openings with their names. */
export function namedOpenings(apertures: readonly Aperture[]) {
	const names = openingNames(apertures);
	return apertures.map(({ areaMm2, perimeterMm, widthMm, lengthMm, shape }, i) => ({
		areaMm2,
		perimeterMm,
		widthMm,
		lengthMm,
		shape,
		name: names[i]!
	}));
}
