<script lang="ts">
	import { PURPOSES, type Purpose } from '$lib/stations/kind.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import SchemaForm from '$lib/ui/SchemaForm.svelte';

	let { data } = $props();
	interface Entered {
		role: (typeof data.kinds)[number]['role'];
		name: string;
		spec: Record<string, unknown>;
	}
	let name = $state('');
	let purpose = $state<Purpose>('surfaceMount');
	let stations = $state<Entered[]>([]);
	let open = $state<number | null>(null);
	const kinds = $derived(data.kinds.filter((kind) => kind.purposes.includes(purpose)));
	const kindOf = (role: string) => data.kinds.find((kind) => kind.role === role)!;
	const may = (kind: (typeof data.kinds)[number]) => kind.many || !stations.some((s) => s.role === kind.role);

	function add(kind: (typeof data.kinds)[number]) {
		const n = stations.filter((s) => s.role === kind.role).length;
		const named = n ? `${kind.name} ${n + 1}` : kind.name;
		stations = [
			...stations,
			{ role: kind.role, name: named, spec: structuredClone($state.snapshot(kind.start)) as Record<string, unknown> }
		];
		open = stations.length - 1;
	}
	function move(i: number, by: number) {
		const order = [...stations];
		[order[i], order[i + by]] = [order[i + by]!, order[i]!];
		stations = order;
		open = null;
	}
	async function enter(event: SubmitEvent) {
		event.preventDefault();
		if (await act('POST', '/api/v1/lines', { name, purpose, stations: $state.snapshot(stations) }, `${name} entered`)) {
			[name, stations, open] = ['', [], null];
		}
	}
</script>

<div class="grid h-full grid-cols-[360px_minmax(0,1fr)] gap-8 pt-3">
	<section class="overflow-y-auto">
		<h1 class="text-[26px] leading-8 font-bold">Lines</h1>
		<ul data-testid="entered">
			{#each data.entered as line (line.id)}
				<li class="border-b border-hair py-2">
					<a class="font-semibold underline" href="/line/{line.id}">{line.name}</a> <span class="text-soft">{PURPOSES[line.purpose]}</span>
					<p class="text-sm text-soft">{line.stations.map((s) => s.name).join(' → ')}</p>
				</li>
			{:else}<li class="py-2 text-soft">No line yet.</li>{/each}
		</ul>
	</section>
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
		<ol class="grid gap-2">
			{#each stations as s, i (i)}
				<li class="border border-line px-3 py-2">
					<div class="flex items-center gap-2">
						<span class="figure w-6 text-soft">{i + 1}</span>
						<input
							class="input h-11 w-44 border-line bg-sheet"
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
					{#if open === i}<div class="mt-3"><SchemaForm schema={kindOf(s.role).form} bind:value={s.spec} /></div>{/if}
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
	</form>
</div>
