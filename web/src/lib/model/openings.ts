import type { Aperture } from '@keen-relay/core/artwork';
import type { NamedOpening } from '@keen-relay/core/stencil';

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

export function namedOpenings(apertures: readonly Aperture[]): (NamedOpening & { shape: string })[] {
	const names = openingNames(apertures);
	return apertures.map((a, i) => ({
		areaMm2: a.areaMm2,
		perimeterMm: a.perimeterMm,
		widthMm: a.widthMm,
		lengthMm: a.lengthMm,
		shape: a.shape,
		name: names[i]!
	}));
}
