import { z } from 'zod';
import type { StationRole } from '$lib/stations/index.ts';
import type { AnyMessage, MessageKind } from './message-parts.ts';
import { says } from './message-parts.ts';
import type { StationModule } from './module.ts';
import * as modules from './modules.ts';

/** What every machine may say of itself. */
export const machineState = says('state', 'what a machine does', ['line'], {
	state: z.enum(['running', 'waiting', 'stopped', 'idle']).meta({ title: 'State' }),
	reason: z.string().max(120).optional().meta({ title: 'Why' })
});

export const STATION_MODULES: readonly StationModule[] = Object.values(modules);
const byRole = new Map(STATION_MODULES.map((module) => [module.role, module]));
const byType = new Map(STATION_MODULES.flatMap((module) => module.messages.map((message) => [message.type, { module, message }])));

/** The module of a kind of station. */
export function moduleOf(role: StationRole): StationModule {
	return byRole.get(role)!;
}

/** Whose message that is; undefined for what every machine says. */
export function ownerOf(type: string): { module: StationModule; message: MessageKind } | undefined {
	return byType.get(type);
}

/** What machines report. One JSON object a line; every message has its identity (source, boot id, number). */
export const message = z.discriminatedUnion('type', [
	machineState.schema,
	...STATION_MODULES.flatMap((module) => module.messages.map(({ schema }) => schema))
] as unknown as [typeof machineState.schema]) as unknown as z.ZodType<AnyMessage>;

/** Every message, for the description of the API. */
export const MESSAGES: readonly MessageKind[] = [machineState, ...STATION_MODULES.flatMap((module) => module.messages)];

/** What one of them looks like on the wire. */
export const MESSAGE_EXAMPLE =
	'{"source":"Line 1/Print","bootId":"6f3a1c0e-7b0f-4c57-9a57-0c9d3e1f2a44","number":0,"at":"2026-11-25T09:00:00Z","type":"state","state":"running"}';
