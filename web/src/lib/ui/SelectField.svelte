<script lang="ts" generics="T">
	import FieldError from './FieldError.svelte';

	interface Props {
		label: string;
		/** What it is called to who cannot see where it stands. */
		spoken?: string;
		value: T;
		/** What can be chosen, each with its words. */
		options: readonly (readonly [T, string])[];
		errors?: readonly string[] | undefined;
		disabled?: boolean;
		/** Of the field. */
		class?: string;
		/** Of the label around it. */
		around?: string;
		/** Another one was chosen. */
		onchange?: () => void;
	}
	let {
		label,
		spoken,
		value = $bindable(),
		options,
		errors,
		disabled = false,
		class: looks = 'h-12',
		around = '',
		onchange
	}: Props = $props();
	const id = $props.id();
	const wrong = $derived(Boolean(errors?.length));
</script>

<label class="text-sm {around}"
	><span class="text-soft">{label}</span><select
		class="select w-full border-line bg-sheet {wrong ? 'border-act' : ''} {looks}"
		bind:value
		{disabled}
		{onchange}
		aria-label={spoken ?? label}
		aria-invalid={wrong}
		aria-describedby={wrong ? id : undefined}
		>{#if !options.some(([one]) => one === value)}<option {value} disabled></option>{/if}{#each options as [one, words] (one)}<option
				value={one}>{words}</option
			>{/each}</select
	><FieldError {id} words={errors} /></label
>
