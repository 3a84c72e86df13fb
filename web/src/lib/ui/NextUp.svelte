<script lang="ts">
	import DataTable from './DataTable.svelte';
	import type { NextUp } from '$lib/model/types.ts';
	import LevelMark from './LevelMark.svelte';
	import { clockTime, sayWhen } from './format.ts';
	import { plantTime } from './clock.svelte.ts';
	import { say } from './theirs.svelte.ts';

	interface Props {
		due: NextUp[];
		timeZone: string;
		/** Acts that the plant lets a line ask for in an hour. */
		budget: number;
		open: boolean;
	}
	let { due, timeZone, budget, open = $bindable() }: Props = $props();
	const HOUR_MS = 3_600_000;
	const soon = $derived(due.filter((entry) => entry.atMs <= plantTime.now + HOUR_MS).length);
	let dialog: HTMLDialogElement | undefined = $state();
	$effect(() => {
		if (open && !dialog?.open) dialog?.showModal();
		if (!open && dialog?.open) dialog.close();
	});
	const SHOWN = 3;
</script>

<footer class="flex h-11 items-center gap-8 border-t border-line px-5 text-sm whitespace-nowrap" data-testid="next-up">
	<strong>Next up</strong>
	<div class="flex min-w-0 flex-1 gap-8 overflow-hidden">
		{#each due.slice(0, SHOWN) as entry, i (i)}
			<span class="truncate"
				><span class="figure">{clockTime(entry.atMs, timeZone)}</span>
				<a class="underline" href={entry.href}>{say(entry.action)}</a>{entry.station === 'Run' || entry.station === 'Shift'
					? ''
					: `, ${entry.station}`}
				<span class="text-soft">{sayWhen(entry.atMs, plantTime.now)}</span></span
			>
		{:else}
			<span class="text-soft">Nothing due</span>
		{/each}
	</div>
	<button class="btn border-line bg-transparent font-normal btn-sm" onclick={() => (open = true)}>
		<kbd class="kbd kbd-sm">n</kbd> all {due.length}
	</button>
</footer>

<dialog bind:this={dialog} class="modal" onclose={() => (open = false)} aria-label="Next up">
	<div class="modal-box max-h-[88vh] max-w-4xl border border-line bg-sheet p-6 shadow-none">
		<h2 class="text-xl font-semibold">Next up, by the latest safe start</h2>
		<p class="mt-1 flex items-center gap-2 text-[15px]" data-testid="budget">
			<LevelMark level={soon > budget ? 'watch' : 'good'} />{soon} due within the hour; the plant asks at most {budget} of one person (<a
				class="underline"
				href="/plant/rules?rule=alarmBudget"
				onclick={() => (open = false)}>alarm budget</a
			>).
			{#if soon > budget}A second person, or something asks too often.{/if}
		</p>
		<div class="mt-3">
			{#snippet what(entry: NextUp)}<a class="font-semibold underline" href={entry.href} onclick={() => (open = false)}
					>{say(entry.action)}</a
				>{/snippet}
			<DataTable
				whole
				small
				name="next-up"
				label="What is due"
				rows={due.map((entry, nth) => ({ ...entry, nth }))}
				key={({ nth }) => nth}
				columns={[
					{ id: 'start', title: 'Start', value: (e) => e.atMs, words: (e) => clockTime(e.atMs, timeZone), class: 'figure' },
					{ id: 'in', title: 'In', value: (e) => e.atMs, words: (e) => sayWhen(e.atMs, plantTime.now), class: 'whitespace-nowrap' },
					{ id: 'what', title: 'What', value: (e) => e.action, cell: what },
					{ id: 'where', title: 'Where', value: (e) => e.station, class: 'whitespace-nowrap' },
					{ id: 'why', title: 'Why', value: (e) => e.reason, class: 'text-soft' },
					{ id: 'who', title: 'Who', value: (e) => e.who }
				]}
				empty="Nothing is due on this line."
			/>
		</div>
		<form method="dialog" class="mt-5 text-right"><button class="btn border-ink bg-transparent">Close</button></form>
	</div>
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
