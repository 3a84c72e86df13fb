import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import {
	panelGeometry,
	readBom,
	readOutlineLayer,
	readPasteLayer,
	readPositions,
	reconcile,
	registerToArtwork
} from '@keen-relay/core/artwork';
import { planLine } from '@keen-relay/core/balance';
import { readPackage } from '@keen-relay/core/parts';
import type { PlacerSpec } from '@keen-relay/core/placement';
import { checkStencil } from '@keen-relay/core/stencil';
import { BOARDS, placeParts } from './boards.ts';
import { LINES } from './factory-line.ts';
import { footprint } from './footprints.ts';
import { writeNetlist, writeOutline, writePaste } from './write-gerber.ts';

const file = (key: string, name: string) => readFileSync(new URL(`../files/${key}/${name}`, import.meta.url), 'utf8');

describe.each(BOARDS.map((board, i) => ({ board, seed: 4000 + i })))('$board.name', ({ board, seed }) => {
	const both = placeParts(board, seed);
	const parts = both.filter((part) => part.side === 'top');
	const paste = readPasteLayer(file(board.key, 'paste-top.gbr'));
	const all = readPositions(file(board.key, 'positions.csv'));
	const positions = { ...all, rows: all.rows.filter((row) => row.side === 'top') };

	test('the files in the checkout are what the generator writes', () => {
		expect(file(board.key, 'paste-top.gbr')).toBe(writePaste(board, both));
		if (board.bottom) {
			expect(file(board.key, 'paste-bottom.gbr')).toBe(writePaste(board, both, 'bottom'));
			expect(file(board.key, 'netlist.ipc')).toBe(writeNetlist(board, both));
		}
		expect(file(board.key, 'outline.gbr')).toBe(writeOutline(board));
	});

	test('the paste layer reads without an issue, one opening for every pad', () => {
		expect(paste.issues).toEqual([]);
		const pads = parts.reduce((sum, part) => sum + footprint(part.item.packageName).length, 0);
		expect(paste.apertures).toHaveLength(pads);
	});

	test('the area of all openings is that of the footprints', () => {
		// Rounded corners take (4 − π)r² of each soft rectangle; home plates lose a triangle each: both below 3 %.
		const drawn = paste.apertures.reduce((sum, a) => sum + a.areaMm2, 0);
		const meant = parts
			.flatMap((part) => footprint(part.item.packageName))
			.reduce((sum, pad) => sum + (pad.shape === 'circle' ? (Math.PI * pad.w * pad.w) / 4 : pad.w * pad.h), 0);
		expect(drawn / meant).toBeGreaterThan(0.9);
		expect(drawn / meant).toBeLessThan(1.001);
	});

	test('the outline is the board', () => {
		expect(readOutlineLayer(file(board.key, 'outline.gbr')).box).toEqual({ minX: 0, minY: 0, maxX: board.widthMm, maxY: board.heightMm });
	});

	test('positions read without an issue and stand on the paste as they are', () => {
		expect(positions.issues).toEqual([]);
		expect(positions.rows.filter((row) => row.kind === 'part')).toHaveLength(parts.length);
		expect(positions.rows.filter((row) => row.kind === 'fiducial')).toHaveLength(2);
		const { best } = registerToArtwork(
			positions.rows,
			paste.apertures.map((a) => a.centre),
			['mm']
		);
		expect(best).toMatchObject({ mirrored: false, offset: { x: 0, y: 0 } });
	});

	test('every part lies on the board and on its own paste', () => {
		const items = [...new Set(parts.map((part) => part.item))].map((item, i) => ({
			line: i + 1,
			partNumber: item.partNumber,
			designators: parts.filter((part) => part.item === item).map((part) => part.refDes),
			quantity: null,
			byHand: false,
			fitted: item.fitted !== false,
			value: item.value,
			packageName: item.packageName,
			description: ''
		}));
		const { parts: joined, partOfAperture, findings } = reconcile(positions.rows, items, paste.apertures, readPackage);
		expect(findings.filter((finding) => finding.severity === 'error')).toEqual([]);
		expect(partOfAperture.every((refDes) => refDes !== null)).toBe(true);
		for (const part of joined) expect(part.apertures, part.refDes).toHaveLength(footprint(part.packageName).length);
	});

	test('the released foil works', () => {
		const openings = paste.apertures.map((a) => ({ ...a, name: String(a.index) }));
		expect(checkStencil(openings, board.foilUm / 1000, 'laser').counts.fail).toBe(0);
	});

	test('the line places all of it', () => {
		const machines = LINES[0]!.stations.flatMap((station) => (station.spec.placer ? [station.spec.placer as PlacerSpec] : []));
		const boardParts = parts.map((part) => ({
			refDes: part.refDes,
			partNumber: part.item.partNumber,
			value: part.item.value,
			packageName: part.item.packageName,
			xMm: part.x,
			yMm: part.y,
			rotationDeg: part.rotation,
			fitted: part.item.fitted !== false,
			apertures: []
		}));
		const { rows, columns, gapMm, railMm } = board.panel;
		const layout = { rows, columns, pitchXMm: board.widthMm + gapMm, pitchYMm: board.heightMm + gapMm, railMm, fiducials: [] };
		const plan = planLine(boardParts, panelGeometry(board, layout), machines);
		expect(plan.byHand).toEqual([]);
		const fitted = boardParts.filter((part) => part.fitted).length;
		expect(plan.machines.reduce((sum, machine) => sum + machine.placements, 0)).toBe(fitted * rows * columns);
		const [fast, slow] = plan.machines.map((machine) => machine.totalS);
		expect(Math.max(fast!, slow!) / Math.min(fast!, slow!)).toBeLessThan(parts.length > 60 ? 1.1 : 1.3);
	});
});

test('the demo shows what it is meant to show', () => {
	const frost = file('frost-sensor', 'paste-top.gbr');
	expect(frost).toContain('%AMSOFTRECT*');
	expect(frost).toMatch(/%SRX9Y9I0\.4000J0\.4000\*%/);
	const packages = new Set(BOARDS.flatMap((board) => board.items.map((item) => readPackage(item.packageName))));
	expect([...packages].some((body) => body.chip === '0201')).toBe(true);
	expect([...packages].some((body) => body.kind === 'ballGrid' && body.pitchMm === 0.4)).toBe(true);
	const qfn = footprint('QFN50P700X700X90-49').filter((pad) => pad.shape === 'rect');
	expect(qfn).toHaveLength(9);
});

test('the parts list of the first board reads without an issue', () => {
	const bom = readBom(file('frost-sensor', 'parts-list.csv'));
	expect(bom.issues).toEqual([]);
	expect(bom.items.filter((item) => !item.fitted).map((item) => item.designators)).toEqual([['R51', 'R52']]);
});

test('no two parts of a board stand on each other', () => {
	for (const [i, board] of BOARDS.entries()) {
		const parts = placeParts(board, 4000 + i);
		expect(new Set(parts.map((part) => part.refDes)).size).toBe(parts.length);
		for (const part of parts) {
			expect(part.x).toBeGreaterThan(0);
			expect(part.y).toBeLessThan(board.heightMm);
		}
	}
});
