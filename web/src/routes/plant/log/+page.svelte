<script lang="ts">
	import { ACTION_WORDS } from '$lib/model/words.ts';
	import { undo } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	/** What was done, or what was tried in vain. */
	type Entry = { key: string; at: Date } & (
		{ done: (typeof data.rows)[number]; tried: null } | { done: null; tried: (typeof data.tries)[number] }
	);
	/** The newest first. */
	const records = $derived<Entry[]>(
		[
			...data.rows.map((done) => ({ key: `a${done.id}`, at: done.at, done, tried: null })),
			...data.tries.map((tried) => ({ key: `t${tried.id}`, at: tried.at, done: null, tried }))
		]
			.sort((a, b) => b.at.getTime() - a.at.getTime())
			.slice(0, data.most)
	);
	const doing = (of: string) => (of in ACTION_WORDS ? ACTION_WORDS[of as keyof typeof ACTION_WORDS] : of);
</script>

<section class="flex h-full flex-col px-5 pt-4">
	<div class="flex items-center justify-between">
		<div>
			<h1 class="text-[28px] font-bold">Log</h1>
			<p class="text-soft">Who did what. Undo writes a record of its own; nothing is taken out.</p>
		</div>
		<form method="get" class="flex gap-2">
			<input
				class="input h-12 w-72 border-line bg-sheet"
				name="find"
				value={data.wanted}
				placeholder="a name, board or job"
				aria-label="A name, board or job"
			/>
			<button class="btn h-12 border-ink bg-transparent">Find</button>
		</form>
	</div>
	<div class="mt-3 min-h-0 flex-1">
		{#snippet undoing({ done }: Entry)}{#if done?.undoneBy}undone by {done.undoneBy}
			{:else if done?.canUndo}<button
					class="btn h-9 border-line bg-transparent font-normal"
					disabled={!can(done.action)}
					onclick={() => undo(done.id)}>Undo</button
				>{/if}{/snippet}
		<DataTable
			name="log"
			label="Records"
			testid="log"
			rows={records}
			key={(r) => r.key}
			rowClass={(r) => (r.tried || r.done.undoneBy ? 'text-soft' : '')}
			columns={[
				{ id: 'when', title: 'When', value: (r) => r.at.getTime(), time: true },
				{
					id: 'who',
					title: 'Who',
					value: ({ done, tried }) =>
						tried ? tried.badge : `${done.name}${done.approver && done.approver !== done.name ? `, approved by ${done.approver}` : ''}`
				},
				{
					id: 'what',
					title: 'What',
					value: ({ done, tried }) => (tried ? (tried.answered ? 'wrong PIN' : 'too many tries of a PIN') : ACTION_WORDS[done.action])
				},
				{ id: 'of', title: 'Of what', value: ({ done, tried }) => (tried ? doing(tried.doing) : done.subject) },
				{
					id: 'where',
					title: 'Where',
					value: ({ done, tried }) => (tried ? (tried.stationPc ?? tried.address) : (done.stationPc ?? 'own sign-in')),
					class: 'text-sm text-soft'
				},
				{ id: 'undo', title: '', value: () => null, cell: undoing, class: 'text-right text-sm' }
			]}
			empty={data.wanted ? `Nothing of “${data.wanted}”.` : 'Nothing yet.'}
		>
			{#snippet after()}{#if records.length === data.most}<p class="py-2 text-sm text-soft">
						The latest {data.most} are shown.
					</p>{/if}{/snippet}
		</DataTable>
	</div>
</section>
