<script lang="ts" generics="T extends string | null | undefined">
	import type { HTMLInputAttributes } from 'svelte/elements';
	import FieldError from './FieldError.svelte';

	interface Props extends Pick<
		HTMLInputAttributes,
		'form' | 'type' | 'placeholder' | 'autocomplete' | 'maxlength' | 'inputmode' | 'list' | 'disabled' | 'autofocus'
	> {
		label: string;
		/** What it is called to who cannot see where it stands. */
		spoken?: string;
		value: T;
		errors?: readonly string[] | undefined;
		/** The field alone: its label is read to who cannot see it. */
		bare?: boolean;
		/** A scan goes into it. */
		scan?: boolean;
		/** Numbers and codes. */
		figure?: boolean;
		/** Several lines. */
		rows?: number;
		/** Of the field. */
		class?: string;
		/** Of the label around it. */
		around?: string;
		/** Left with another value than it was entered with. */
		onchange?: () => void;
	}
	let {
		label,
		spoken,
		value = $bindable(),
		errors,
		bare = false,
		scan = false,
		figure = false,
		rows,
		class: looks = 'h-12',
		around = '',
		...rest
	}: Props = $props();
	const id = $props.id();
	const wrong = $derived(Boolean(errors?.length));
	const shared = $derived({
		// What is wrong is no part of its name.
		'aria-label': spoken ?? label,
		'aria-invalid': wrong,
		'aria-describedby': wrong ? id : undefined,
		'data-scan': scan ? '' : undefined,
		...rest
	});
	const shape = $derived(`w-full border-line bg-sheet ${figure ? 'figure' : ''} ${wrong ? 'border-act' : ''} ${looks}`);
</script>

<label class="text-sm {around}"
	>{#if !bare}<span class="text-soft">{label}</span>{/if}{#if rows}<textarea
			class="textarea {shape}"
			{rows}
			bind:value
			{...shared as object}></textarea>{:else}<input class="input {shape}" bind:value {...shared} />{/if}<FieldError
		{id}
		words={errors}
	/></label
>
