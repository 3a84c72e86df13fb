<script lang="ts">
	import { page } from '$app/state';
	import { ACTION_WORDS } from '$lib/model/words.ts';
	import { undo } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import { say } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	/** What was done and what was tried in vain, the newest first. */
	const records = $derived(
		[
			...data.rows.map((done) => ({ key: `a${done.id}`, at: done.at, done, tried: null })),
			...data.tries.map((tried) => ({ key: `t${tried.id}`, at: tried.at, done: null, tried }))
		]
			.sort((a, b) => b.at.getTime() - a.at.getTime())
			.slice(0, data.most)
	);
	const doing = (of: string) => (of in ACTION_WORDS ? ACTION_WORDS[of as keyof typeof ACTION_WORDS] : of);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
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
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class="mt-3 min-h-0 flex-1 overflow-y-auto" role="group" aria-label="Records" tabindex="0">
		<table class="rows" data-testid="log">
			<thead><tr><th>When</th><th>Who</th><th>What</th><th>Of what</th><th>Where</th><th></th></tr></thead>
			<tbody>
				{#each records as { key, done: row, tried } (key)}
					{#if tried}
						<tr class="text-soft">
							<td class="figure whitespace-nowrap">{dayTime(tried.at, zone)}</td>
							<td class="figure">{tried.badge}</td>
							<td>{tried.answered ? 'wrong PIN' : 'too many tries of a PIN'}</td>
							<td>{doing(tried.doing)}</td>
							<td class="text-sm">{tried.stationPc ?? tried.address}</td>
							<td></td>
						</tr>
					{:else if row}
						<tr class={row.undoneBy ? 'text-soft' : ''}>
							<td class="figure whitespace-nowrap">{dayTime(row.at, zone)}</td>
							<td>{row.name}{row.approver && row.approver !== row.name ? `, approved by ${row.approver}` : ''}</td>
							<td>{ACTION_WORDS[row.action]}</td>
							<td>{say(row.subject)}</td>
							<td class="text-sm text-soft">{row.stationPc ?? 'own sign-in'}</td>
							<td class="text-right text-sm">
								{#if row.undoneBy}undone by {row.undoneBy}
								{:else if row.canUndo}<button
										class="btn h-9 border-line bg-transparent font-normal"
										disabled={!can(row.action)}
										onclick={() => undo(row.id)}>Undo</button
									>{/if}
							</td>
						</tr>
					{/if}
				{:else}<tr><td colspan="6" class="text-soft">{data.wanted ? `Nothing of “${data.wanted}”.` : 'Nothing yet.'}</td></tr>{/each}
			</tbody>
		</table>
		{#if records.length === data.most}<p class="py-2 text-sm text-soft">The latest {data.most} are shown.</p>{/if}
	</div>
</section>
