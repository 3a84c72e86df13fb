<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

	interface Props {
		toolId: number;
		/** Where it is measured, in the order in which it is. */
		points: readonly { x: number; y: number; name: string }[];
	}
	let { toolId, points }: Props = $props();
	const unmeasured = null as unknown as number;
	const { form, errors, enhance, draft } = entry({
		id: 'tension',
		schema: bodies.tension,
		start: () => ({ readings: points.map(({ x, y }) => ({ x, y, nPerCm: unmeasured })) }),
		path: () => `/api/v1/stencil-tools/${toolId}/tension`,
		done: () => 'Tension kept',
		draft: { subject: untrack(() => `tension.${toolId}`) }
	});
</script>

<EntryForm {enhance} {draft} label="Tension" class="mt-2 grid grid-cols-5 gap-2">
	{#each points as p, i (p.name)}
		<NumberField label={p.name} bind:value={$form.readings[i]!.nPerCm} errors={$errors.readings?.[i]?.nPerCm} />
	{/each}
	<button class="btn col-span-full min-h-12 border-ink bg-transparent" disabled={!can('stencilTool.keep')}>Keep these readings</button>
</EntryForm>
