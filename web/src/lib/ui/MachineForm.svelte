<script lang="ts">
	import type { ComponentProps } from 'svelte';
	import { MACHINE_SIZES, type MachineSize } from '$lib/stations/kind.ts';
	import type { FormSchema } from '$lib/model/types.ts';
	import type { StationRole } from '$lib/stations/index.ts';
	import MachineDrawing from './MachineDrawing.svelte';
	import SchemaForm from './SchemaForm.svelte';

	interface Props {
		kind: { role: StationRole; form: FormSchema; sizes: Partial<Record<MachineSize, object>> };
		spec: Record<string, unknown>;
		errors?: ComponentProps<typeof SchemaForm>['errors'];
	}
	let { kind, spec = $bindable(), errors }: Props = $props();
	const sizes = $derived(Object.entries(kind.sizes) as [MachineSize, object][]);
</script>

<MachineDrawing role={kind.role} {spec} />
{#if sizes.length}
	<p class="mt-1 flex items-center gap-2 text-sm">
		<span class="text-soft">Begin from a machine of usual size:</span>
		{#each sizes as [size, values] (size)}
			<button
				type="button"
				class="btn min-h-11 border-line bg-transparent font-normal"
				onclick={() => (spec = structuredClone($state.snapshot(values)) as Record<string, unknown>)}>{MACHINE_SIZES[size]}</button
			>
		{/each}
	</p>
{/if}
<div class="mt-2"><SchemaForm schema={kind.form} bind:value={spec} {errors} /></div>
