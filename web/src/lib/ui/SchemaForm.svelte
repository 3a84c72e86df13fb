<script lang="ts">
	import type { FormSchema } from '$lib/model/types.ts';
	import { page } from '$app/state';
	import DateField from './DateField.svelte';
	import FieldError from './FieldError.svelte';
	import { plantInstant, plantLocal } from './format.ts';
	import TextField from './TextField.svelte';
	import NumberField from './NumberField.svelte';
	import SchemaForm from './SchemaForm.svelte';
	import { theirs, titled } from './theirs.svelte.ts';

	interface Props {
		schema: FormSchema;
		/** What is typed, in the schema's shape; a field that was left empty is not there. */
		value: Record<string, unknown>;
		/** A row of a list: its fields stand beside each other. */
		inline?: boolean;
		/** What is wrong, in the value's shape. */
		errors?: Wrong | undefined;
	}
	type Wrong = { readonly [key: string | number]: Wrong | readonly string[] | undefined } | readonly string[];
	let { schema, value = $bindable(), inline = false, errors }: Props = $props();
	const id = $props.id();
	const below = (of: Wrong | undefined, key: string | number): Wrong | undefined =>
		of && !(of instanceof Array) ? (of as Exclude<Wrong, readonly string[]>)[key] : undefined;
	/** What is wrong with a field: the first thing, of itself or of what stands in it. */
	function wordsOf(of: Wrong | undefined): string[] | undefined {
		if (!of) return undefined;
		if (of instanceof Array) return [...of] as string[];
		return Object.values(of)
			.map((part) => wordsOf(part))
			.find((words) => words?.length);
	}
	/** Of a list or group as a whole; its parts say their own. */
	const wholeOf = (of: Wrong | undefined) => (of instanceof Array ? wordsOf(of) : wordsOf(below(of, '_errors')));

	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
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
	/** Lists whose text could not be read. */
	let wrongList = $state<Record<string, string | undefined>>({});
	/** Numbers with blanks between them, as they are typed into a field of one; null where one is none. */
	const numbersOf = (text: string, unit: string): number[] | null => {
		const read = text.split(/[\s;]+/).flatMap((t) => (t === '' ? [] : [theirs().read(t, unit)]));
		return read.every((r) => 'value' in r) ? read.map((r) => r.value) : null;
	};
	function setNumbers(name: string, field: HTMLTextAreaElement, unit: string) {
		const read = numbersOf(field.value, unit);
		const why = read ? '' : `Type numbers with blanks between them, like ${theirs().inField(0.35)} ${theirs().inField(0.4)}.`;
		field.setCustomValidity(why);
		wrongList = { ...wrongList, [name]: why || undefined };
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
		{@const wrong = below(errors, name)}
		{@const words = wordsOf(wrong)}
		{@const said = words?.length ? { 'aria-invalid': true, 'aria-describedby': `${id}-${name}` } : {}}
		{@const s = real(given)}
		{@const label = title(name, s)}
		{#if s.enum}
			<label class="text-sm"
				><span class="text-soft">{label}</span><select
					class="select h-12 w-full border-line bg-sheet"
					value={value[name] ?? ''}
					onchange={(e) => set(name, e.currentTarget.value)}
					{...said}
					>{#if !needed.has(name) || value[name] === undefined}<option value=""></option>{/if}{#each s.enum as option (option)}<option
							value={option}>{s.words?.[option] ?? option}</option
						>{/each}</select
				><FieldError id="{id}-{name}" {words} /></label
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
				errors={words}
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
							errors={below(wrong, i)}
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
				<FieldError id="{id}-{name}" words={wholeOf(wrong)} />
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
					onchange={(e) => set(name, pairsOf(e.currentTarget.value))}
					{...said}></textarea><FieldError id="{id}-{name}" {words} /></label
			>
		{:else if s.type === 'object'}
			<fieldset class="col-span-2 border-l-2 border-hair pl-3">
				<legend class="text-sm font-semibold text-soft">{label}</legend>
				<SchemaForm schema={s} errors={wrong} bind:value={() => (value[name] ?? {}) as Record<string, unknown>, (v) => set(name, v)} />
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
					aria-invalid={wrongList[name] !== undefined || words !== undefined}
					aria-describedby="{id}-{name}"></textarea><FieldError
					id="{id}-{name}"
					words={wrongList[name] ? [wrongList[name]] : words}
				/></label
			>
		{:else if s.format === 'date-time'}
			<DateField
				{label}
				time
				class="h-12"
				value={typeof value[name] === 'string' ? plantLocal(value[name], zone) : null}
				onvalue={(v) => set(name, v ? plantInstant(v, zone) : undefined)}
				errors={words}
			/>
		{:else}
			<TextField {label} bind:value={() => (value[name] ?? '') as string, (v) => set(name, v)} errors={words} />
		{/if}
	{/each}
</div>
