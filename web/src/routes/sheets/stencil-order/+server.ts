import { PAD_CLASS_NAMES } from '@keen-relay/core/parts';
import { panelGeometry } from '@keen-relay/core/artwork';
import { idOf } from '$lib/server/answer.ts';
import { machineData } from '$lib/stations/index.ts';
import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { sayTo } from '$lib/server/people/preferences.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { AREA_RATIO_LIMIT } from '@keen-relay/core/stencil';
import { foilFor } from '$lib/server/stations/print/joint-needs.ts';
import { orderedOpenings } from '$lib/server/queries/transfer.ts';
import { pdfResponse, sheetPdf } from '$lib/server/sheets/pdf.ts';

/** Number of the stencil that a design is ordered as: of the one that was made of it, else the next that is free. */
async function stencilNumber(stencilId: number): Promise<string> {
	const tools = await db.selectFrom('stencilTool').select(['code', 'stencilId']).execute();
	const own = tools.find((tool) => tool.stencilId === stencilId);
	if (own) return own.code;
	const last = Math.max(0, ...tools.flatMap(({ code }) => /^S-(\d{1,6})$/.exec(code)?.[1] ?? []).map(Number));
	return `S-${String(last + 1).padStart(3, '0')}`;
}

/** Frames of the plant's printers; a sheet that goes to the maker says where nothing was entered. */
async function frames(): Promise<string> {
	const printers = await db
		.selectFrom('station')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select(['line.name', 'station.role', 'station.spec'])
		.where('station.role', '=', 'print')
		.where('station.outOfUseAt', 'is', null)
		.orderBy('line.name')
		.execute();
	const entered = printers.flatMap((printer) => {
		const frame = machineData(printer, 'print')?.frame;
		return frame ? [{ line: printer.name, frame }] : [];
	});
	const kinds = [...new Set(entered.map(({ frame }) => frame))];
	if (kinds.length === 0) return 'to be agreed: none is entered for a printer of this plant';
	if (kinds.length === 1) return kinds[0]!;
	return kinds
		.map(
			(kind) =>
				`${kind} (${entered
					.filter(({ frame }) => frame === kind)
					.map(({ line }) => line)
					.join(', ')})`
		)
		.join('; ');
}

/** What a stencil maker needs for ?side=, in millimetres as its files are: foil, walls, panel, marks, and the openings by size. */
export async function GET({ url, locals }) {
	const sideId = idOf(url.searchParams.get('side') ?? '');
	const [{ side, revision, openings }, nowMs, plant, say] = await Promise.all([
		orderedOpenings(sideId),
		plantNow(),
		plantInfo(),
		sayTo(locals)
	]);
	const stencil = await db
		.selectFrom('stencil')
		.selectAll()
		.where('boardSideId', '=', sideId)
		.where('status', '=', 'released')
		.executeTakeFirst();
	const panel = panelGeometry(side, side.panel, side.side);
	const [number, frame] = await Promise.all([stencil ? stencilNumber(stencil.id) : null, frames()]);
	const { choice, area, needs } = await foilFor(sideId, stencil?.wall ?? 'laser', stencil?.taperUm ?? null);
	const groups = new Map<string, { padClass: string; shape: string; length: number; width: number; n: number }>();
	for (const o of openings) {
		const key = `${o.padClass} ${o.shape} ${o.lengthMm.toFixed(3)} ${o.widthMm.toFixed(3)}`;
		const g = groups.get(key) ?? { padClass: PAD_CLASS_NAMES[o.padClass], shape: o.shape, length: o.lengthMm, width: o.widthMm, n: 0 };
		groups.set(key, { ...g, n: g.n + 1 });
	}
	const name = `Stencil order, ${side.name} ${side.revision}, ${side.side}`;
	const pdf = await sheetPdf({
		title: name,
		about: [
			`${plant.name}, for ${side.customer}; printed ${say.dayTime(nowMs, plant.timeZone)}`,
			...(number ? [`Stencil number ${number}, to be cut into the foil and written on the frame`] : []),
			`Frame ${frame}`,
			stencil
				? `Design ${stencil.revision}: foil ${stencil.foilUm} µm, walls ${AREA_RATIO_LIMIT[stencil.wall].name}${stencil.taperUm === null ? '' : `, ${stencil.taperUm} µm wider at the board side`}`
				: 'No design is released: for a quotation only',
			`Openings under the plant’s rules, revision ${revision ?? 0}; the layer in RS-274X and the table of openings belong to this sheet`
		],
		blocks: [
			{
				heading: 'Panel',
				lines: [
					`${panel.widthMm.toFixed(1)} × ${panel.heightMm.toFixed(1)} mm, ${panel.origins.length} circuits, seen from the ${side.side}`,
					...panel.origins.map(
						(o, i) => `Circuit ${i + 1}: ${o.x.toFixed(3)}, ${o.y.toFixed(3)} mm${o.rotationDeg ? `, turned ${o.rotationDeg}°` : ''}`
					)
				]
			},
			{
				heading: 'Marks, half etched on the board side',
				columns: [
					{ title: 'x, mm', figures: true },
					{ title: 'y, mm', figures: true }
				],
				rows: panel.fiducials.map((f) => [f.x.toFixed(3), f.y.toFixed(3)])
			},
			...(area && choice.foilMm !== null && choice.stepMm !== null
				? [
						{
							heading: `Step: ${Math.round(choice.foilMm * 1000)} µm, thinned to ${Math.round(choice.stepMm * 1000)} µm in these rectangles of each circuit`,
							lines: [
								`${choice.inStep.length} openings in the step; ${area.keepOutMm.toFixed(2)} mm clear across its edge${area.tooNear.length ? `: ${area.tooNear.length} openings stand nearer, ask before cutting` : ''}`,
								`For ${needs.map((n) => `${n.refDes} (${n.neededMm3} mm³ a joint)`).join(', ')}`
							]
						},
						{
							heading: 'Rectangles of the step',
							columns: ['x from, mm', 'y from, mm', 'x to, mm', 'y to, mm'].map((title) => ({ title, figures: true })),
							rows: area.boxes.map((b) => [b.minX, b.minY, b.maxX, b.maxY].map((v) => v.toFixed(3)))
						}
					]
				: []),
			{
				heading: `Openings of one circuit: ${openings.length}`,
				columns: [
					{ title: 'Class', width: '*' },
					{ title: 'Shape' },
					{ title: 'Length, mm', figures: true },
					{ title: 'Width, mm', figures: true },
					{ title: 'Number', figures: true }
				],
				rows: [...groups.values()]
					.sort((a, b) => a.width - b.width)
					.map((g) => [g.padClass, g.shape, g.length.toFixed(3), g.width.toFixed(3), g.n])
			}
		],
		signatures: [{ role: 'ordered', name: '', at: '' }]
	});
	return pdfResponse(pdf, name);
}
