import type { BoardPart } from '@keen-relay/core/artwork';
import { readPackage } from '@keen-relay/core/parts';
import type { ClassedAperture } from '@keen-relay/core/boards';
import type { DrawnPart } from './board-view.svelte.ts';

export interface SideGeometry {
	sideId: number;
	widthMm: number;
	heightMm: number;
	apertures: ClassedAperture[];
	parts: BoardPart[];
}

const cache = new Map<number, Promise<SideGeometry>>();

/** Boards have changed: a land pattern was confirmed, say, and gives pins to openings that had none. */
export function forgetGeometry(): void {
	cache.clear();
}

/** Openings and parts of a kept side; asked for once, until something of the boards changes. */
export function loadGeometry(sideId: number): Promise<SideGeometry> {
	let geometry = cache.get(sideId);
	if (!geometry) {
		geometry = fetch(`/api/v1/sides/${sideId}/geometry`).then((response) => {
			if (!response.ok) throw new Error(`The board's drawing could not be loaded (${response.status}).`);
			return response.json() as Promise<SideGeometry>;
		});
		geometry.catch(() => cache.delete(sideId));
		cache.set(sideId, geometry);
	}
	return geometry;
}

/** Parts with the body that their package name gives. */
export function drawnParts(parts: readonly BoardPart[]): DrawnPart[] {
	return parts.map((part) => {
		const body = readPackage(part.packageName);
		return { ...part, lengthMm: body.lengthMm, widthMm: body.widthMm };
	});
}
