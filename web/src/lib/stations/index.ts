import { panelGeometry } from '@keen-relay/core/artwork';
import type { LinePlan, Stage } from '@keen-relay/core/balance';
import { z } from 'zod';
import type { Issue } from '@keen-relay/core/judgement';
import { PURPOSES, type PanelOf, type Purpose, type StationKind } from './kind.ts';
import * as kinds from './kinds.ts';

type Kinds = typeof kinds;
/** Kinds by the word that is stored. */
type ByRole = { [K in keyof Kinds as Kinds[K]['role']]: Kinds[K] };
export type StationRole = keyof ByRole;

/** Machine data of a kind as it was read. */
export type MachineData<R extends StationRole> =
	NonNullable<ByRole[R]['machine']> extends { schema: infer S extends z.ZodObject } ? z.output<S> : never;

/** Every kind of station, in the order boards travel. */
export const KINDS: readonly StationKind<StationRole>[] = (Object.values(kinds) as unknown as StationKind<StationRole>[]).sort(
	(a, b) => a.order - b.order
);

const byRole = new Map(KINDS.map((kind) => [kind.role, kind]));

export function kindOf(role: StationRole): StationKind<StationRole> {
	return byRole.get(role)!;
}

/** The page of a station. */
export function stationHref(lineId: number, role: StationRole, stationId: number): string {
	const { path, many } = kindOf(role);
	return `/line/${lineId}/${path}${many ? `/${stationId}` : ''}`;
}

/** Machine data of a station of that kind; null where the station is another one or its data do not fit. */
export function machineData<R extends StationRole>(station: { role: string; spec: unknown }, role: R): MachineData<R> | null {
	if (station.role !== role) return null;
	return (kindOf(role).machine?.schema.safeParse(station.spec).data ?? null) as MachineData<R> | null;
}

export const stationName = z
	.string()
	.trim()
	.min(1)
	.max(20)
	.regex(/^[^/]+$/, 'no slash: messages name their source as line/station');

/** A station as it is entered: of a kind that is a machine, with that kind's data. */
export const stationBody = z.discriminatedUnion(
	'role',
	KINDS.filter((kind) => kind.machine).map((kind) =>
		z.object({ role: z.literal(kind.role), name: stationName, spec: kind.machine!.schema as z.ZodType<Record<string, unknown>> })
	) as unknown as [z.ZodObject<{ role: z.ZodLiteral<StationRole>; name: z.ZodString; spec: z.ZodType<Record<string, unknown>> }>]
);

/** What is wrong with the stations of a line: kinds that it may have once, kinds that a line of its purpose does not have, names that are not their own. */
export function faultsOfLine(purpose: Purpose, stations: readonly { role: StationRole; name: string }[]): Issue[] {
	return stations.flatMap(({ role, name }, i): Issue[] => {
		const kind = kindOf(role);
		const say = (field: string, message: string) => [
			{ severity: 'error' as const, code: 'refused', field: `stations.${i}.${field}`, value: name, message }
		];
		if (!kind.purposes.includes(purpose))
			return say('role', `${name}: a line for ${PURPOSES[purpose].toLowerCase()} has no ${kind.about}.`);
		if (!kind.many && stations.findIndex((s) => s.role === role) !== i) return say('role', `${name}: a line has one ${kind.about}.`);
		if (stations.findIndex((s) => s.name.toLowerCase() === name.toLowerCase()) !== i)
			return say('name', `Two stations are called ${name}: messages could not tell them apart.`);
		return [];
	});
}

/** Inspection machines and testers that a panel does not go into, each with what it takes, mm. */
export function tooSmallFor(
	stations: readonly { role: string; name: string; spec: unknown }[],
	panel: { widthMm: number; heightMm: number }
): { name: string; longestMm: number; widestMm: number }[] {
	return stations.flatMap((station) => {
		const data = (['pasteCheck', 'optical', 'inCircuit'] as const).flatMap((role) => machineData(station, role) ?? [])[0];
		if (!data || (panel.widthMm <= data.longestMm && panel.heightMm <= data.widestMm)) return [];
		return [{ name: station.name, longestMm: data.longestMm, widestMm: data.widestMm }];
	});
}

/** Stages of a line for one side: what each takes for a panel, s; a station that cannot say so is left out. */
export function stagesOf(
	stations: readonly { role: StationRole; name: string; spec: unknown }[],
	board: PanelOf,
	plan: LinePlan | null,
	beltCmPerMin: number | null
): Stage[] {
	const panel = panelGeometry(board, board.panel, board.side);
	return stations.flatMap(({ role, name, spec }): Stage[] => {
		const { machine } = kindOf(role);
		const data = machine?.schema.safeParse(spec).data;
		const secondsPerPanel = machine && data ? machine.paceS(data, { name, panel, plan, beltCmPerMin }) : null;
		return secondsPerPanel === null ? [] : [{ name, secondsPerPanel }];
	});
}
