import type { PackageRecord } from '../parts/index.ts';

export interface Axis {
	/** m/s would hide a factor of 1000: speeds are mm/s, accelerations mm/s². */
	vMmS: number;
	aMmS2: number;
}

/** A gantry placer with one bank of feeders along x. Every figure is the machine's own, editable record. */
export interface PlacerSpec {
	name: string;
	slots: number;
	slotPitchMm: number;
	cameraSlot: number;
	/** The camera looks while the head passes (on the fly), or the head stops over it. */
	onTheFly: boolean;
	spindles: number;
	headPitchMm: number;
	x: Axis;
	y: Axis;
	pickS: number;
	placeS: number;
	cameraS: number;
	transferS: number;
	fiducialS: number;
	/** Accuracy with its sigma multiple: one sigma is accuracy / multiple. */
	accuracyUm: number;
	accuracySigmas: number;
	smallestMm: number;
	largestMm: number;
	tallestMm: number;
	finestPitchMm: number;
	trays: boolean;
}

/** Which tip a body asks for. A head without nozzle changes holds a fixed mix of them. */
export type Nozzle = 'small' | 'medium' | 'large';

export function nozzleFor(body: PackageRecord): Nozzle {
	const shorter = Math.min(body.lengthMm ?? 3, body.widthMm ?? 3);
	if (shorter <= 0.55) return 'small';
	return shorter <= 3.5 ? 'medium' : 'large';
}

/** The machine as it moves while it carries parts: no faster than the one that slips first allows, for the whole cycle. */
export function carrying<M extends Pick<PlacerSpec, 'x' | 'y'>>(machine: M, held: readonly ({ holdMmS2?: number | null } | null)[]): M {
	const limit = held.reduce((least, part) => Math.min(least, part?.holdMmS2 ?? Infinity), Infinity);
	if (limit >= Math.max(machine.x.aMmS2, machine.y.aMmS2)) return machine;
	const slower = (axis: Axis): Axis => ({ ...axis, aMmS2: Math.min(axis.aMmS2, limit) });
	return { ...machine, x: slower(machine.x), y: slower(machine.y) };
}

/** Why a machine cannot place a body; empty where it can. An unknown body goes only to a machine that sees large parts. */
export function cannotPlace(machine: PlacerSpec, body: PackageRecord, tray: boolean): string[] {
	const reasons: string[] = [];
	const longest = Math.max(body.lengthMm ?? 0, body.widthMm ?? 0);
	const shorter = Math.min(body.lengthMm ?? Infinity, body.widthMm ?? Infinity);
	if (longest === 0) {
		if (machine.largestMm < 15) reasons.push('body size unknown: left to a machine for large parts');
		return reasons;
	}
	if (longest > machine.largestMm) reasons.push(`body ${longest} mm, at most ${machine.largestMm} mm`);
	if (shorter < machine.smallestMm) reasons.push(`body ${shorter} mm, at least ${machine.smallestMm} mm`);
	if ((body.heightMm ?? 0) > machine.tallestMm) reasons.push(`height ${body.heightMm} mm, at most ${machine.tallestMm} mm`);
	if (body.kind !== 'chip' && body.pitchMm !== null && body.pitchMm < machine.finestPitchMm)
		reasons.push(`pitch ${body.pitchMm} mm, at least ${machine.finestPitchMm} mm`);
	if (tray && !machine.trays) reasons.push('comes in a tray, no tray here');
	return reasons;
}
