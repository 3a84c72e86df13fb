<script lang="ts">
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import MachineDrawing from '$lib/ui/MachineDrawing.svelte';
	import MachineForm from '$lib/ui/MachineForm.svelte';
	import { untrack } from 'svelte';
	import type { PageData } from './$types';

	interface Props {
		line: PageData['entered'][number];
		kinds: PageData['kinds'];
		revisions: PageData['revisions'];
	}
	let { line, kinds, revisions }: Props = $props();
	type Station = PageData['entered'][number]['stations'][number];
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	let name = $state(untrack(() => line.name));
	/** The station whose data are open, as they are being corrected. */
	let edited = $state<{ id: number; name: string; spec: Record<string, unknown>; startedFrom: number } | null>(null);
	/** The kind that is being added. */
	let added = $state<{ role: Station['role']; name: string; spec: Record<string, unknown> } | null>(null);
	const kindOf = (role: string) => kinds.find((kind) => kind.role === role)!;
	const more = $derived(
		kinds.filter((k) => k.purposes.includes(line.purpose) && (k.many || !line.stations.some((s) => s.role === k.role)))
	);
	const copied = (values: unknown) => structuredClone($state.snapshot(values)) as Record<string, unknown>;
	const at = (s: Station) => `/api/v1/stations/${s.id}`;

	const rename = (event: SubmitEvent) => {
		event.preventDefault();
		void act('PUT', `/api/v1/lines/${line.id}`, { name }, `The line is called ${name}`);
	};
	function move(i: number, by: number) {
		const order = line.stations.map((s) => s.id);
		[order[i], order[i + by]] = [order[i + by]!, order[i]!];
		void act('PUT', `/api/v1/lines/${line.id}`, { order }, 'Boards travel in this order now');
	}
	function correct(s: Station) {
		added = null;
		edited = edited?.id === s.id ? null : { id: s.id, name: s.name, spec: copied(s.spec), startedFrom: s.revision };
	}
	async function keep(event: SubmitEvent, s: Station) {
		event.preventDefault();
		if (!edited) return;
		const { id: _, ...body } = $state.snapshot(edited);
		if (await act('PUT', at(s), body, `${edited.name}: revision ${edited.startedFrom + 1}; runs that are on keep theirs`)) edited = null;
	}
	async function enter(event: SubmitEvent) {
		event.preventDefault();
		if (added && (await act('POST', `/api/v1/lines/${line.id}/stations`, $state.snapshot(added), `${added.name} entered`))) added = null;
	}
	function begin(kind: PageData['kinds'][number]) {
		const n = line.stations.filter((s) => s.role === kind.role).length;
		edited = null;
		added = { role: kind.role, name: n || kind.role === 'place' ? `${kind.name} ${n + 1}` : kind.name, spec: copied(kind.start) };
	}
</script>

<section class="flex min-h-0 flex-col gap-3 overflow-y-auto pr-2 pb-4" aria-label={line.name}>
	<form class="flex items-end gap-3" onsubmit={rename}>
		<label class="flex flex-col text-sm"
			><span class="text-soft">Line</span><input
				class="input h-12 w-64 border-line bg-sheet text-lg font-semibold"
				bind:value={name}
				required
				maxlength="40"
				pattern="[^/]+"
			/></label
		>
		<button class="btn min-h-12 border-ink bg-transparent font-normal" disabled={!can('line.create') || name === line.name}
			>Call it this</button
		>
		<a class="ml-auto underline" href="/line/{line.id}">Its page</a>
	</form>
	<ol class="grid gap-2" data-testid="line-stations">
		{#each line.stations as s, i (s.id)}
			{@const open = edited?.id === s.id}
			<li class="border border-line px-3 py-2">
				<div class="flex items-center gap-2">
					<span class="figure w-6 text-soft">{i + 1}</span>
					<span class="w-36 font-semibold">{s.name}</span>
					<span class="flex-1 text-sm text-soft">{kindOf(s.role).about}; data revision {s.revision}</span>
					<button type="button" class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => correct(s)}
						>{open ? 'Close' : 'Machine data'}</button
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent"
						disabled={i === 0 || !can('line.create')}
						onclick={() => move(i, -1)}
						aria-label="{s.name} upstream">↑</button
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent"
						disabled={i === line.stations.length - 1 || !can('line.create')}
						onclick={() => move(i, 1)}
						aria-label="{s.name} downstream">↓</button
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent font-normal"
						disabled={!can('line.create')}
						onclick={() => act('PUT', `${at(s)}/use`, { inUse: false }, `${s.name} is out of use; what it reported stays`)}
						>Out of use</button
					>
				</div>
				{#if open && edited}
					<form class="mt-3 grid gap-3" onsubmit={(event) => keep(event, s)} aria-label="Machine data of {s.name}">
						<label class="flex flex-col text-sm"
							><span class="text-soft">Name, as messages say it</span><input
								class="input h-12 w-64 border-line bg-sheet"
								bind:value={edited.name}
								required
								maxlength="20"
								pattern="[^/]+"
							/></label
						>
						<div><MachineForm kind={kindOf(s.role)} bind:spec={edited.spec} /></div>
						<div class="flex items-center gap-4">
							<button class="btn min-h-12 btn-primary" disabled={!can('station.set')}>Keep as revision {edited.startedFrom + 1}</button>
							<p class="text-sm text-soft">
								{#each revisions.filter((r) => r.stationId === s.id) as r (r.revision)}<span class="mr-3"
										>revision {r.revision}: {dayTime(r.setAt, zone)}{r.by ? `, ${r.by}` : ''}</span
									>{/each}
							</p>
						</div>
					</form>
				{:else}<div class="pt-1"><MachineDrawing role={s.role} spec={s.spec as Record<string, unknown>} /></div>{/if}
			</li>
		{/each}
	</ol>
	<div class="flex flex-wrap gap-2" role="group" aria-label="Add a station">
		{#each more as kind (kind.role)}
			<button
				type="button"
				class="btn min-h-12 border-ink bg-transparent font-normal"
				disabled={!can('line.create')}
				onclick={() => begin(kind)}>+ {kind.name}</button
			>
		{/each}
	</div>
	{#if added}
		<form class="border border-ink px-3 py-2" onsubmit={enter} aria-label="New station">
			<label class="flex flex-col text-sm"
				><span class="text-soft">Name, as messages say it</span><input
					class="input h-12 w-64 border-line bg-sheet"
					bind:value={added.name}
					required
					maxlength="20"
					pattern="[^/]+"
				/></label
			>
			<div class="mt-2"><MachineForm kind={kindOf(added.role)} bind:spec={added.spec} /></div>
			<div class="mt-2 flex gap-3">
				<button class="btn min-h-12 btn-primary">Enter it at the line’s end</button>
				<button type="button" class="btn min-h-12 border-line bg-transparent" onclick={() => (added = null)}>Cancel</button>
			</div>
		</form>
	{/if}
	{#if line.outOfUse.length}
		<h2 class="border-b border-hair pb-1 font-semibold text-soft">Out of use</h2>
		<ul data-testid="out-of-use">
			{#each line.outOfUse as s (s.id)}
				<li class="flex items-center gap-3 border-b border-hair py-2">
					<span class="font-semibold">{s.name}</span>
					<span class="flex-1 text-sm text-soft">{kindOf(s.role).about}; since {dayTime(s.outOfUseAt!, zone)}</span>
					<button
						class="btn min-h-11 border-line bg-transparent font-normal"
						disabled={!can('line.create')}
						onclick={() => act('PUT', `${at(s)}/use`, { inUse: true }, `${s.name} is in use again, at the line’s end`)}
						>Back into use</button
					>
				</li>
			{/each}
		</ul>
	{/if}
</section>
