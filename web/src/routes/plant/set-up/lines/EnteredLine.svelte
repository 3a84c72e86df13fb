<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import MachineDrawing from '$lib/ui/MachineDrawing.svelte';
	import StationForm from './StationForm.svelte';
	import type { PageData } from './$types';

	interface Props {
		line: PageData['entered'][number];
		kinds: PageData['kinds'];
		revisions: PageData['revisions'];
	}
	let { line, kinds, revisions }: Props = $props();
	type Station = PageData['entered'][number]['stations'][number];
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const { form, errors, enhance } = entry({
		id: 'line-name',
		schema: bodies.lineChange.pick({ name: true }).required(),
		start: () => ({ name: line.name }),
		method: 'PUT',
		path: () => `/api/v1/lines/${line.id}`,
		done: ({ name }) => `The line is called ${name}`,
		stays: true
	});
	/** The station whose data are open, as they are being corrected. */
	let edited = $state<{ id: number; revision: number } | null>(null);
	/** The kind that is being added. */
	let added = $state<{ role: Station['role']; name: string; spec: object } | null>(null);
	const kindOf = (role: string) => kinds.find((kind) => kind.role === role)!;
	const more = $derived(
		kinds.filter((k) => k.purposes.includes(line.purpose) && (k.many || !line.stations.some((s) => s.role === k.role)))
	);
	const at = (s: Station) => `/api/v1/stations/${s.id}`;

	function move(i: number, by: number) {
		const order = line.stations.map((s) => s.id);
		[order[i], order[i + by]] = [order[i + by]!, order[i]!];
		void act('PUT', `/api/v1/lines/${line.id}`, { order }, 'Boards travel in this order now');
	}
	function correct(s: Station) {
		added = null;
		edited = edited?.id === s.id ? null : { id: s.id, revision: s.revision };
	}
	function begin(kind: PageData['kinds'][number]) {
		const n = line.stations.filter((s) => s.role === kind.role).length;
		edited = null;
		added = { role: kind.role, name: n || kind.role === 'place' ? `${kind.name} ${n + 1}` : kind.name, spec: kind.start };
	}
</script>

<section class="flex min-h-0 flex-col gap-3 overflow-y-auto pr-2 pb-4" aria-label={line.name}>
	<EntryForm {enhance} label="Name of the line" class="flex items-end gap-3">
		<TextField label="Line" bind:value={$form.name} errors={$errors.name} class="h-12 text-lg font-semibold" around="w-64" />
		<button class="btn min-h-12 border-ink bg-transparent font-normal" disabled={!can('line.create') || $form.name === line.name}
			>Call it this</button
		>
		{#if !line.outOfUseAt}<a class="ml-auto underline" href="/line/{line.id}">Its page</a>{/if}
		<button
			type="button"
			class="btn min-h-12 font-normal {line.outOfUseAt ? 'btn-primary' : 'border-line bg-transparent'}"
			disabled={!can('line.create')}
			onclick={() =>
				act(
					'PUT',
					`/api/v1/lines/${line.id}/use`,
					{ inUse: line.outOfUseAt !== null },
					line.outOfUseAt ? `${line.name} is in use again, as it was` : `${line.name} is out of use; what was built on it stays`
				)}>{line.outOfUseAt ? 'Put the line back into use' : 'Line out of use'}</button
		>
	</EntryForm>
	{#if line.outOfUseAt}<p>
			Nothing is built on {line.name} since {dayTime(line.outOfUseAt, zone)}. Its panels, messages and machine data stay; its stations come
			back with it.
		</p>{/if}
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
					<div class="mt-3">
						<StationForm
							kind={kindOf(s.role)}
							name={s.name}
							spec={s.spec as object}
							of={edited}
							lineId={line.id}
							label="Machine data of {s.name}"
							onend={() => (edited = null)}
						>
							{#snippet buttons()}<div class="flex items-center gap-4">
									<button class="btn min-h-12 btn-primary" disabled={!can('station.set')}>Keep as revision {edited!.revision + 1}</button>
									<p class="text-sm text-soft">
										{#each revisions.filter((r) => r.stationId === s.id) as r (r.revision)}<span class="mr-3"
												>revision {r.revision}: {dayTime(r.setAt, zone)}{r.by ? `, ${r.by}` : ''}</span
											>{/each}
									</p>
								</div>{/snippet}
						</StationForm>
					</div>
				{:else}<div class="pt-1"><MachineDrawing role={s.role} spec={s.spec as Record<string, unknown>} /></div>{/if}
			</li>
		{/each}
	</ol>
	<div class="flex flex-wrap gap-2" role="group" aria-label="Add a station">
		{#each line.outOfUseAt ? [] : more as kind (kind.role)}
			<button
				type="button"
				class="btn min-h-12 border-ink bg-transparent font-normal"
				disabled={!can('line.create')}
				onclick={() => begin(kind)}>+ {kind.name}</button
			>
		{/each}
	</div>
	{#if added}
		{#key added}<div class="border border-ink px-3 py-2">
				<StationForm
					kind={kindOf(added.role)}
					name={added.name}
					spec={added.spec}
					of={null}
					lineId={line.id}
					label="New station"
					onend={() => (added = null)}
				>
					{#snippet buttons()}<div class="flex gap-3">
							<button class="btn min-h-12 btn-primary">Enter it at the line’s end</button>
							<button type="button" class="btn min-h-12 border-line bg-transparent" onclick={() => (added = null)}>Cancel</button>
						</div>{/snippet}
				</StationForm>
			</div>{/key}
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
						disabled={!can('line.create') || line.outOfUseAt !== null}
						onclick={() => act('PUT', `${at(s)}/use`, { inUse: true }, `${s.name} is in use again, at the line’s end`)}
						>Back into use</button
					>
				</li>
			{/each}
		</ul>
	{/if}
</section>
