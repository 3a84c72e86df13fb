<script lang="ts" generics="T extends number | null | undefined">
	import FieldError from './FieldError.svelte';
	import { theirs } from './theirs.svelte.ts';

	interface Props {
		/** With its unit after the last comma, as it is kept: "foil, µm". */
		label: string;
		/** The unit as it is kept, where the label does not end with it. */
		unit?: string;
		/** In the unit in which it is kept; null where the field is empty. */
		value: T;
		min?: number;
		max?: number;
		/** What an arrow key adds; 1 takes whole numbers only where `whole` is said. */
		step?: number | 'any';
		whole?: boolean;
		disabled?: boolean;
		/** What holds while it is empty. */
		placeholder?: string;
		/** The field alone: its label is read to who cannot see it. */
		bare?: boolean;
		class?: string;
		/** What a pointer that rests on it is told. */
		hint?: string;
		style?: string;
		/** Left with another value than it was entered with. */
		onchange?: () => void;
		onvalue?: (value: number | null) => void;
		/** What the form says of it. */
		errors?: readonly string[] | undefined;
		/** The form that it belongs to, where it stands outside of it. */
		form?: string;
	}
	let {
		label,
		unit = label.includes(', ') ? label.slice(label.lastIndexOf(', ') + 2) : '',
		value = $bindable(),
		min = 0,
		max,
		step = 'any',
		whole = false,
		disabled = false,
		placeholder = '',
		bare = false,
		class: looks = '',
		hint,
		style,
		onchange,
		onvalue,
		errors,
		form
	}: Props = $props();

	let field: HTMLInputElement | undefined = $state();
	/** What stands in the field while somebody types; null: the value does. */
	let typed = $state<string | null>(null);
	let sent: number | null = null;
	let withUnit = $state(false);
	let wrong = $state('');
	const id = $props.id();
	const say = $derived(theirs());
	const named = $derived(say.title(label));
	const there = $derived(value === null || value === undefined || Number.isNaN(value) ? null : value);
	const shown = $derived(typed ?? (there === null ? '' : say.inField(there, unit)));

	function take(text: string) {
		typed = text;
		if (text.trim() === '') {
			withUnit = false;
			return set(null);
		}
		const read = say.read(text, unit);
		wrong = 'why' in read ? read.why : outside(read.value);
		field?.setCustomValidity(wrong);
		withUnit = 'value' in read && read.unit !== null;
		// Outside its limits it is a number all the same: what it would bring can be seen.
		if ('value' in read) send(read.value);
	}
	function set(to: null) {
		wrong = '';
		field?.setCustomValidity('');
		send(to);
	}
	function send(to: number | null) {
		sent = to;
		value = to as T;
		onvalue?.(to);
	}
	function outside(read: number): string {
		if (whole && !Number.isInteger(read)) return 'This takes whole numbers.';
		if (read < min) return `At least ${say.inField(min, unit)}${unit ? ` ${say.unit(unit)}` : ''}.`;
		if (max !== undefined && read > max) return `At most ${say.inField(max, unit)}${unit ? ` ${say.unit(unit)}` : ''}.`;
		return '';
	}
	function left() {
		// Shown back as it was read; what could not be read stays, with its words, and takes nobody back from where they went.
		if (wrong === '' || typed?.trim() === '') typed = null;
		withUnit = false;
	}
	function pressed(event: KeyboardEvent) {
		const up = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
		if (!up || step === 'any') return;
		event.preventDefault();
		const next = Number(((there ?? 0) + up * step).toPrecision(12));
		if (outside(next)) return;
		typed = null;
		wrong = '';
		field?.setCustomValidity('');
		send(next);
	}
	// Another value from outside takes the place of what was typed.
	$effect(() => {
		if (there !== sent) {
			sent = there;
			typed = null;
			wrong = '';
			field?.setCustomValidity('');
		}
	});
</script>

{#snippet input()}
	<input
		bind:this={field}
		class="figure input {bare ? '' : 'w-full'} border-line bg-sheet px-2 {wrong || errors?.length ? 'border-act' : ''} {looks || 'h-11'}"
		{form}
		type="text"
		inputmode="decimal"
		role="spinbutton"
		autocomplete="off"
		aria-label={named}
		aria-invalid={wrong !== '' || Boolean(errors?.length)}
		aria-valuenow={there ?? undefined}
		aria-describedby={withUnit || wrong ? `${id}-read` : errors?.length ? `${id}-error` : undefined}
		value={shown}
		{style}
		{onchange}
		{disabled}
		{placeholder}
		title={wrong || hint}
		oninput={(event) => take(event.currentTarget.value)}
		onblur={left}
		onkeydown={pressed}
	/>{#if withUnit && there !== null && !wrong}<span
			class="absolute top-full left-0 z-10 bg-paper px-1 text-xs whitespace-nowrap text-soft"
			id="{id}-read"
			role="status">= {say.inField(there, unit)} {say.unit(unit)}</span
		>{:else if wrong && typed}<span
			class="absolute top-full left-0 z-10 border border-line bg-paper px-1 text-xs whitespace-nowrap"
			id="{id}-read"
			role="status">{wrong}</span
		>{/if}{#if !wrong}<FieldError id="{id}-error" words={errors} />{/if}
{/snippet}

{#if bare}<span class="relative inline-block {looks.includes('w-full') ? 'w-full' : ''}">{@render input()}</span>{:else}
	<label class="relative flex flex-col justify-end text-xs"><span class="text-soft">{named}</span>{@render input()}</label>
{/if}
