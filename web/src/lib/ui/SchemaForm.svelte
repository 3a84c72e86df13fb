<script lang="ts">
	import type { FormSchema } from '$lib/model/types.ts';
	import { page } from '$app/state';
	import { plantInstant } from './format.ts';
	import NumberField from './NumberField.svelte';
	import SchemaForm from './SchemaForm.svelte';
	import { theirs, titled } from './theirs.svelte.ts';

	interface Props {
		schema: FormSchema;
		/** What is typed, in the schema's shape; a field that was left empty is not there. */
		value: Record<string, unknown>;
		/** A row of a list: its fields stand beside each other. */
		inline?: boolean;
	}
	let { schema, value = $bindable(), inline = false }: Props = $props();

	const fields = $derived(Object.entries(schema.properties ?? {}));
	const needed = $derived(new Set(schema.required ?? []));
	/** Of a field that may be empty, what it is otherwise. */
	const real = (s: FormSchema): FormSchema => ({ ...s, ...(s.anyOf?.find((one) => one.type && (one.type as string) !== 'null') ?? {}) });
	const title = (name: string, s: FormSchema) => `${s.title ?? name}${s.unit ? `, ${s.unit}` : ''}`;
	const isNumber = (s: FormSchema) => s.type === 'number' || s.type === 'integer';
	/** A list of numbers is typed with blanks between them; one that the schema cannot describe is such a list. */
	const isNumbers = (s: FormSchema) => (s.type === 'array' && s.items !== undefined && isNumber(s.items)) || s.type === undefined;
	const isRows = (s: FormSchema) => s.type === 'array' && s.items?.type === 'object';
	/** Rows of a few plain fields stand on a line each. */
	const isPlain = (s: FormSchema) =>
		Object.values(s.properties ?? {}).length <= 5 &&
		Object.values(s.properties ?? {}).every((p) => !['object', 'array'].includes(real(p).type ?? 'array'));
	const isPairs = (s: FormSchema) => s.type === 'object' && !s.properties;
	const empty = (s: FormSchema): unknown =>
		s.default !== undefined ? s.default : s.type === 'object' ? {} : s.type === 'array' ? [] : s.type === 'boolean' ? false : undefined;
	/** Text fields show what was read of a list. */
	const unitOf = (s: FormSchema) => s.unit ?? s.items?.unit ?? '';
	const listText = (v: unknown, unit: string) => (Array.isArray(v) ? v.map((n: number) => theirs().inField(n, unit)).join(' ') : '');
	const pairText = (v: unknown) =>
		Object.entries((v ?? {}) as object)
			.map(([k, n]) => `${k}: ${n}`)
			.join('\n');

	function set(name: string, v: unknown) {
		const { [name]: _, ...rest } = value;
		value = v === undefined || v === '' ? rest : { ...rest, [name]: v };
	}
	/** Numbers with blanks between them, as they are typed into a field of one; null where one is none. */
	const numbersOf = (text: string, unit: string): number[] | null => {
		const read = text.split(/[\s;]+/).flatMap((t) => (t === '' ? [] : [theirs().read(t, unit)]));
		return read.every((r) => 'value' in r) ? read.map((r) => r.value) : null;
	};
	function setNumbers(name: string, field: HTMLTextAreaElement, unit: string) {
		const read = numbersOf(field.value, unit);
		field.setCustomValidity(read ? '' : 'Type numbers with blanks between them, like 0.35 0.35 0.4.');
		field.reportValidity();
		if (read) set(name, read.length ? read : undefined);
	}
	const pairsOf = (text: string) =>
		Object.fromEntries(
			text.split('\n').flatMap((row) => {
				const [k, v] = row.split(':').map((t) => t.trim());
				return k && v ? [[k, Number(v)]] : [];
			})
		);
	const rowsOf = (name: string) => (value[name] ?? []) as Record<string, unknown>[];
</script>

<div class="grid {inline ? 'flex-1 auto-cols-fr grid-flow-col items-end' : 'grid-cols-2'} gap-3">
	{#each fields as [name, given] (name)}
		{@const s = real(given)}
		{@const label = title(name, s)}
		{#if s.enum}
			<label class="text-sm"
				><span class="text-soft">{label}</span><select
					class="select h-12 w-full border-line bg-sheet"
					value={value[name] ?? ''}
					onchange={(e) => set(name, e.currentTarget.value)}
					required={needed.has(name)}
					>{#if !needed.has(name) || value[name] === undefined}<option value=""></option>{/if}{#each s.enum as option (option)}<option
							value={option}>{option}</option
						>{/each}</select
				></label
			>
		{:else if s.type === 'boolean'}
			<label class="flex min-h-12 items-center gap-2 text-sm"
				><input
					type="checkbox"
					class="checkbox"
					checked={Boolean(value[name])}
					onchange={(e) => set(name, e.currentTarget.checked)}
				/>{label}</label
			>
		{:else if isNumber(s)}
			<NumberField
				{label}
				unit={s.unit ?? ''}
				class="h-12"
				whole={s.type === 'integer'}
				min={s.minimum ?? -Infinity}
				max={s.maximum}
				value={value[name] as number | undefined}
				onvalue={(v) => set(name, v ?? undefined)}
				required={needed.has(name)}
			/>
		{:else if isRows(s)}
			<fieldset class="col-span-2 border-l-2 border-hair pl-3">
				<legend class="text-sm font-semibold text-soft">{label}</legend>
				{#each rowsOf(name) as row, i (i)}
					{@const plain = isPlain(s.items!)}
					<div class="mb-2 border-b border-hair pb-2 {plain ? 'flex items-end gap-3' : ''}">
						<SchemaForm
							schema={s.items!}
							inline={plain}
							bind:value={
								() => row,
								(v) =>
									set(
										name,
										rowsOf(name).map((old, k) => (k === i ? v : old))
									)
							}
						/>
						<button
							type="button"
							class="btn min-h-11 border-line bg-transparent font-normal {plain ? '' : 'mt-1'}"
							onclick={() =>
								set(
									name,
									rowsOf(name).filter((_, k) => k !== i)
								)}>Take it out</button
						>
					</div>
				{/each}
				<button
					type="button"
					class="btn min-h-11 border-line bg-transparent font-normal"
					onclick={() => set(name, [...rowsOf(name), (empty(s.items!) ?? {}) as Record<string, unknown>])}>One more</button
				>
			</fieldset>
		{:else if isPairs(s)}
			<label class="col-span-2 text-sm"
				><span class="text-soft">{label}: one a line, “14: 2”</span><textarea
					class="figure textarea w-full border-line bg-sheet"
					rows="3"
					value={pairText(value[name])}
					onchange={(e) => set(name, pairsOf(e.currentTarget.value))}></textarea></label
			>
		{:else if s.type === 'object'}
			<fieldset class="col-span-2 border-l-2 border-hair pl-3">
				<legend class="text-sm font-semibold text-soft">{label}</legend>
				<SchemaForm schema={s} bind:value={() => (value[name] ?? {}) as Record<string, unknown>, (v) => set(name, v)} />
			</fieldset>
		{:else if isNumbers(s)}
			<label class="col-span-2 text-sm"
				><span class="text-soft"
					>{titled(label)}: numbers with blanks between them{Array.isArray(value[name])
						? ` (${(value[name] as unknown[]).length})`
						: ''}</span
				><textarea
					class="figure textarea w-full border-line bg-sheet"
					rows="2"
					value={listText(value[name], unitOf(s))}
					onchange={(e) => setNumbers(name, e.currentTarget, unitOf(s))}
					required={needed.has(name)}></textarea></label
			>
		{:else}
			<label class="text-sm"
				><span class="text-soft">{label}</span><input
					class="input h-12 w-full border-line bg-sheet"
					type={s.format === 'date-time' ? 'datetime-local' : 'text'}
					step={s.format === 'date-time' ? 1 : undefined}
					value={s.format === 'date-time' && typeof value[name] === 'string' ? '' : (value[name] ?? '')}
					onchange={(e) =>
						set(
							name,
							s.format === 'date-time' && e.currentTarget.value
								? plantInstant(e.currentTarget.value, page.data.plant?.timeZone ?? 'UTC')
								: e.currentTarget.value
						)}
					required={needed.has(name)}
				/></label
			>
		{/if}
	{/each}
</div>
