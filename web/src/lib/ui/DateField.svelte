<script lang="ts" generics="T extends string | null | undefined">
	import FieldError from './FieldError.svelte';
	import { theirs } from './theirs.svelte.ts';

	interface Props {
		label: string;
		/** What it is called to who cannot see where it stands. */
		spoken?: string;
		/** "2026-11-27", or with the time by the plant's clock "2026-11-27T13:42:00"; empty or null where nothing is entered. */
		value: T;
		/** Day and time. */
		time?: boolean;
		/** A month will do: "2026-11". */
		month?: boolean;
		errors?: readonly string[] | undefined;
		disabled?: boolean;
		/** The field alone: its label is read to who cannot see it. */
		bare?: boolean;
		/** Of the field. */
		class?: string;
		/** Of the label around it. */
		around?: string;
		/** Another date was read, or none. */
		onvalue?: (value: string | null) => void;
	}
	let {
		label,
		spoken,
		value = $bindable(),
		time = false,
		month = false,
		errors,
		disabled = false,
		bare = false,
		class: looks = 'h-11',
		around = '',
		onvalue
	}: Props = $props();
	const id = $props.id();
	const say = $derived(theirs());
	/** What somebody types; null: the value stands there. */
	let typed = $state<string | null>(null);
	let why = $state('');
	let field: HTMLInputElement | undefined = $state();
	const inField = (kept: string) => (kept.length === 7 ? say.month(kept) : `${say.date(kept)}${time ? ` ${kept.slice(11, 16)}` : ''}`);
	const readOne = (text: string) => (time ? say.readDateTime(text) : month ? say.readDateOrMonth(text) : say.readDate(text));
	const shown = $derived(typed ?? (value ? inField(value) : ''));
	const words = $derived(why ? [why] : errors);
	const wrong = $derived(Boolean(words?.length));

	function left() {
		if (typed === null) return;
		const text = typed.trim();
		const read = text === '' ? { value: null } : readOne(text);
		why = 'why' in read ? read.why : '';
		field?.setCustomValidity(why);
		if ('why' in read) return;
		typed = null;
		value = read.value as T;
		onvalue?.(read.value);
	}
</script>

{#snippet input()}<input
		bind:this={field}
		class="figure input w-full border-line bg-sheet {wrong ? 'border-act' : ''} {looks}"
		value={shown}
		placeholder={inField(time ? '2026-11-27T13:42' : '2026-11-27')}
		{disabled}
		autocomplete="off"
		aria-label={spoken ?? label}
		aria-invalid={wrong}
		aria-describedby={wrong ? id : undefined}
		oninput={(event) => (typed = event.currentTarget.value)}
		onchange={left}
		onkeydown={(event) => event.key === 'Enter' && left()}
	/><FieldError {id} {words} />{/snippet}

{#if bare}<span class="inline-block {around}">{@render input()}</span>{:else}<label class="text-sm {around}"
		><span class="text-soft">{label}</span>{@render input()}</label
	>{/if}
