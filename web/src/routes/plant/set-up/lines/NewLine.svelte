<script lang="ts">
	import { goto } from '$app/navigation';
	import { MACHINE_SIZES, PURPOSES, type MachineSize, type Purpose } from '$lib/stations/kind.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import MachineForm from '$lib/ui/MachineForm.svelte';
	import type { PageData } from './$types';

	let { kinds: all }: { kinds: PageData['kinds'] } = $props();
	type Kind = PageData['kinds'][number];
	interface Entered {
		role: Kind['role'];
		name: string;
		spec: Record<string, unknown>;
	}
	let name = $state('');
	let purpose = $state<Purpose>('surfaceMount');
	let stations = $state<Entered[]>([]);
	let open = $state<number | null>(null);
	const kinds = $derived(all.filter((kind) => kind.purposes.includes(purpose)));
	const kindOf = (role: string) => all.find((kind) => kind.role === role)!;
	const may = (kind: Kind) => kind.many || !stations.some((s) => s.role === kind.role);

	/** Surface-mount lines of usual sizes, in the order boards travel. */
	const LINES: Record<MachineSize, Kind['role'][]> = {
		small: ['print', 'place', 'oven', 'bench'],
		middle: ['print', 'pasteCheck', 'place', 'place', 'oven', 'optical'],
		large: ['print', 'pasteCheck', 'place', 'place', 'place', 'oven', 'optical', 'inCircuit']
	};

	const copied = (values: object) => structuredClone($state.snapshot(values)) as Record<string, unknown>;
	function entered(kind: Kind, before: readonly Entered[], size?: MachineSize): Entered {
		const n = before.filter((s) => s.role === kind.role).length;
		return {
			role: kind.role,
			name: n || kind.role === 'place' ? `${kind.name} ${n + 1}` : kind.name,
			spec: copied((size && kind.sizes[size]) ?? kind.start)
		};
	}
	function add(kind: Kind) {
		stations = [...stations, entered(kind, stations)];
		open = stations.length - 1;
	}
	function begin(size: MachineSize) {
		stations = LINES[size].reduce<Entered[]>((list, role) => [...list, entered(kindOf(role), list, size)], []);
		open = null;
	}
	function move(i: number, by: number) {
		const order = [...stations];
		[order[i], order[i + by]] = [order[i + by]!, order[i]!];
		stations = order;
		open = null;
	}
	async function enter(event: SubmitEvent) {
		event.preventDefault();
		const made = await act<{ id: number; actionId?: number }>(
			'POST',
			'/api/v1/lines',
			{ name, purpose, stations: $state.snapshot(stations) },
			`${name} entered`
		);
		if (made) await goto(`?line=${made.id}`);
	}
</script>

<form class="flex min-h-0 flex-col gap-3 overflow-y-auto pr-2 pb-4" onsubmit={enter} aria-label="New line">
	<h2 class="text-xl font-semibold">New line</h2>
	<div class="grid grid-cols-2 gap-3">
		<label class="text-sm"
			><span class="text-soft">Name</span><input
				class="input h-12 w-full border-line bg-sheet"
				bind:value={name}
				required
				maxlength="40"
				pattern="[^/]+"
			/></label
		>
		<label class="text-sm"
			><span class="text-soft">For</span><select class="select h-12 w-full border-line bg-sheet" bind:value={purpose}
				>{#each Object.entries(PURPOSES) as [key, words] (key)}<option value={key}>{words}</option>{/each}</select
			></label
		>
	</div>
	{#if purpose === 'surfaceMount' && stations.length === 0}
		<p class="flex items-center gap-2 text-sm">
			<span class="text-soft">Begin from a line of usual size, then correct it from the machines’ papers:</span>
			{#each Object.entries(MACHINE_SIZES) as [size, words] (size)}
				<button
					type="button"
					class="btn min-h-11 border-line bg-transparent font-normal"
					onclick={() => begin(size as MachineSize)}
					aria-label="{words} line">{words}</button
				>
			{/each}
		</p>
	{/if}
	<ol class="grid gap-2">
		{#each stations as s, i (i)}
			<li class="border border-line px-3 py-2">
				<div class="flex items-center gap-2">
					<span class="figure w-6 text-soft">{i + 1}</span>
					<input
						class="input h-11 w-40 border-line bg-sheet"
						bind:value={s.name}
						required
						maxlength="20"
						pattern="[^/]+"
						aria-label="Name of station {i + 1}"
					/>
					<span class="flex-1 text-sm text-soft">{kindOf(s.role).about}</span>
					<button type="button" class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => (open = open === i ? null : i)}
						>{open === i ? 'Close' : 'Machine data'}</button
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent"
						disabled={i === 0}
						onclick={() => move(i, -1)}
						aria-label="Upstream">↑</button
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent"
						disabled={i === stations.length - 1}
						onclick={() => move(i, 1)}
						aria-label="Downstream">↓</button
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent font-normal"
						onclick={() => ([stations, open] = [stations.filter((_, k) => k !== i), null])}>Take out</button
					>
				</div>
				{#if open === i}<div class="mt-3"><MachineForm kind={kindOf(s.role)} bind:spec={s.spec} /></div>{/if}
			</li>
		{:else}<li class="border border-dashed border-(color:--none) p-4 text-soft">Add the stations in the order boards travel.</li>{/each}
	</ol>
	<div class="flex flex-wrap gap-2" role="group" aria-label="Add a station">
		{#each kinds as kind (kind.role)}
			<button type="button" class="btn min-h-12 border-ink bg-transparent font-normal" disabled={!may(kind)} onclick={() => add(kind)}
				>+ {kind.name}</button
			>
		{/each}
	</div>
	<button class="btn min-h-16 text-lg btn-primary" disabled={!can('line.create') || stations.length === 0}>Enter this line</button>
	{#if !can('line.create')}<p class="text-sm text-soft">A lead enters lines.</p>{/if}
</form>
