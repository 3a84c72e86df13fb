<script lang="ts">
	interface Props {
		/** With its unit. */
		label: string;
		value: number | null | undefined;
		min?: number;
		step?: number | 'any';
		/** What holds while it is empty. */
		placeholder?: string;
	}
	let { label, value = $bindable(), min = 0, step = 'any', placeholder = '' }: Props = $props();
</script>

<label class="flex flex-col justify-end text-xs"
	><span class="text-soft">{label}</span><input
		class="figure input h-11 w-full border-line bg-sheet px-2"
		type="number"
		{min}
		{step}
		{placeholder}
		bind:value
	/></label
>
