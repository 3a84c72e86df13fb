import { z } from 'zod';
import { kindOf, type StationRole } from '$lib/stations/index.ts';
import type { MachineSize } from '$lib/stations/kind.ts';
import type { FormSchema } from '$lib/model/types.ts';
import { moduleOf } from './index.ts';
import { machineState } from './index.ts';
import { HEAD_FIELDS, type MessageKind } from './message-parts.ts';

/** A schema as a form is made from it. */
export const formOf = (schema: z.ZodType): FormSchema => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as FormSchema;

/** What a station of a kind may say, each as a form: the fields that every message has are filled in by the server. */
export function reportForms(role: StationRole): { type: string; words: string; form: FormSchema }[] {
	const own: readonly MessageKind[] = moduleOf(role).messages;
	const all: readonly MessageKind[] = kindOf(role).machine ? [...own, machineState] : own;
	return all.map(({ type, words, schema }) => {
		const fields = Object.fromEntries(Object.entries(schema.shape).filter(([name]) => !HEAD_FIELDS.includes(name)));
		return { type, words, form: formOf(z.object(fields)) };
	});
}

/** Machine data of a kind as a form, with values to start from. */
export function machineForm(role: StationRole): { form: FormSchema; start: object; sizes: Partial<Record<MachineSize, object>> } | null {
	const { machine } = kindOf(role);
	return machine && { form: formOf(machine.schema), start: machine.start, sizes: machine.sizes ?? {} };
}
