<script lang="ts">
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { goto } from '$app/navigation';
	import { MACHINE_SIZES, PURPOSES, type MachineSize, type Purpose } from '$lib/stations/kind.ts';
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
	const { form, errors, enhance, draft } = entry<typeof bodies.line, { id: number; actionId?: number }>({
		id: 'line',
		schema: bodies.line,
		start: () => ({ name: '', purpose: 'surfaceMount' as Purpose, stations: [] as Entered[] }),
		path: '/api/v1/lines',
		done: ({ name }) => `${name} entered`,
		then: ({ id }) => goto(`?line=${id}`),
		draft: { subject: 'line' }
	});
	const stations = $derived($form.stations as Entered[]);
	let open = $state<number | null>(null);
	/** What is wrong in the data of a machine that is closed is seen. */
	$effect(() => {
		const first = Object.keys($errors.stations ?? {}).find(
			(key) => key !== '_errors' && Object.keys($errors.stations![Number(key)] ?? {}).includes('spec')
		);
		if (first !== undefined) open = Number(first);
	});
	const kinds = $derived(all.filter((kind) => kind.purposes.includes($form.purpose!)));
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
		$form.stations = [...stations, entered(kind, stations)];
		open = stations.length - 1;
	}
	function begin(size: MachineSize) {
		$form.stations = LINES[size].reduce<Entered[]>((list, role) => [...list, entered(kindOf(role), list, size)], []);
		open = null;
	}
	function move(i: number, by: number) {
		const order = [...stations];
		[order[i], order[i + by]] = [order[i + by]!, order[i]!];
		$form.stations = order;
		open = null;
	}
</script>

<EntryForm {enhance} {draft} label="New line" class="flex min-h-0 flex-col gap-3 overflow-y-auto pr-2 pb-4">
	<h2 class="text-xl font-semibold">New line</h2>
	<div class="grid grid-cols-2 gap-3">
		<TextField label="Name" bind:value={$form.name} errors={$errors.name} />
		<SelectField
			label="For"
			bind:value={$form.purpose}
			errors={$errors.purpose}
			options={Object.entries(PURPOSES) as [Purpose, string][]}
		/>
	</div>
	{#if $form.purpose === 'surfaceMount' && stations.length === 0}
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
					<TextField
						bare
						label="Name of station {i + 1}"
						bind:value={$form.stations[i]!.name}
						errors={$errors.stations?.[i]?.name}
						class="h-11"
						around="w-40"
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
						onclick={() => ([$form.stations, open] = [stations.filter((_, k) => k !== i), null])}>Take out</button
					>
				</div>
				{#if open === i}<div class="mt-3">
						<MachineForm
							kind={kindOf(s.role)}
							bind:spec={$form.stations[i]!.spec as Record<string, unknown>}
							errors={$errors.stations?.[i]?.spec}
						/>
					</div>{/if}
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
</EntryForm>
