<script lang="ts">
	import { page } from '$app/state';
	import { noData } from '@keen-relay/core/judgement';
	import type { FirstBoardLine } from '@keen-relay/core/line';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { clockTime, dayTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { say } from '$lib/ui/theirs.svelte.ts';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import LookForm from './LookForm.svelte';

	let { data } = $props();
	const first = $derived(data.first);
	const run = $derived(data.run);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const lineName = $derived(page.data.line?.name ?? 'The line');
	const verdict = $derived(
		first?.verdict ??
			(run
				? noData(
						run.settingUp
							? `${run.number} is still set up: its first board comes with the first prints.`
							: `${run.number} was begun without a first board here.`
					)
				: noData(`${lineName} builds nothing.`, ['Set up a job']))
	);
	working.offer(() => verdict);
	const MARKS = { right: 'right', wrong: 'wrong', open: 'not looked at', again: 'changed since' } as const;
	const LEVELS = { right: 'good', wrong: 'stopped', open: 'noData', again: 'watch' } as const;
	let picked = $state<string | null>(null);
	/** The line that was chosen, else the first that is not right. */
	const line = $derived(first?.lines.find((l) => l.key === picked) ?? first?.lines.find((l) => l.mark !== 'right') ?? null);
	/** Panels on which it can be looked at. */
	const been = $derived(line && first ? first.panels.filter((p) => line.through === null || first.been[p]?.includes(line.through)) : []);
	const left = $derived(first?.lines.filter((l) => l.mark !== 'right').length ?? 0);
	const own = $derived(first?.lines.find((l) => l.answer?.personId === page.data.person?.id) ?? null);
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col gap-3 px-5 pt-3.5">
		<VerdictHead {verdict}>
			{#if run && first}{lineName}: {run.board}
				{run.boardRevision}, {run.side}. {first.mode === 'hold'
					? 'The line prints nothing more before a second person has released it'
					: 'The line goes on; what it builds before the release is marked'}: {first.why.join('; ')} (<a
					class="link"
					href="/plant/rules?rule=firstBoard">plant rule</a
				>).{:else}Plants differ: some hold every first board, some go on with proven repeats. Which it is here stands in the
				<a class="link" href="/plant/rules?rule=firstBoard">plant’s rules</a>.{/if}
		</VerdictHead>
		{#if run && first}
			<div class="min-h-0 flex-1">
				{#snippet mark(l: FirstBoardLine)}<span class="flex items-center gap-2" data-mark={l.mark}
						><LevelMark level={LEVELS[l.mark]} />{MARKS[l.mark]}</span
					>{/snippet}
				{#snippet who(l: FirstBoardLine)}{#if l.answer}<span class="whitespace-nowrap">{l.answer.by}, {clockTime(l.answer.atMs, zone)}</span
						>{#if l.answer.note}<span class="block font-semibold">{l.answer.note}</span>{/if}{/if}{/snippet}
				<DataTable
					name="first-board"
					label="Lines of the first board"
					testid="first-board"
					rows={first.lines}
					key={(l) => l.key}
					onpick={(l) => (picked = l.key)}
					picked={(l) => line === l}
					columns={[
						{ id: 'where', title: 'Where', value: (l) => l.where, class: 'whitespace-nowrap' },
						{ id: 'stands', title: 'Stands', value: (l) => MARKS[l.mark], cell: mark, class: 'whitespace-nowrap' },
						{ id: 'look', title: 'What is looked at', value: (l) => l.look },
						{ id: 'rests', title: 'Rests on', value: (l) => l.rests, away: true },
						{ id: 'who', title: 'Looked at by', value: (l) => l.answer?.by ?? '', cell: who }
					]}
					empty="No line."
				/>
			</div>
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				{#if run?.settingUp}What is open of the set-up stands on <a class="link" href="/runs/ready">Ready</a>.
				{:else if run}The next run of {lineName} has one, as the plant’s rule says; a run begins on <a class="link" href="/runs">Jobs</a>.
				{:else}A run begins on <a class="link" href="/runs">Jobs</a>.{/if}
			</p>
		{/if}
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line px-5 pt-3.5">
		{#if run && first}
			<div>
				<p class="figure text-[46px] leading-[50px] font-semibold" data-testid="key-figure">
					{first.lines.length - left} of {first.lines.length}
				</p>
				<p class="text-soft">lines right{first.before ? `; ${first.before} panels printed before the release` : ''}</p>
				{#if first.through === 0}<p class="flex items-center gap-2">
						<LevelMark level="noData" />No panel has gone right through yet.
					</p>{/if}
			</div>
			{#if !first.released}
				<button
					class="btn min-h-16 text-lg btn-primary"
					disabled={!can('firstBoard.release') || left > 0 || own !== null || first.panels.length === 0}
					onclick={() => act('POST', `/api/v1/runs/${run.id}/first-board/release`, {}, 'The first board is released')}
					>Release the first board</button
				>
				<p class="-mt-2 text-sm text-soft">
					{left
						? 'When each line is right.'
						: own
							? `A second person does it: you looked at ${own.where} yourself.`
							: 'You have looked at none of its lines: a second person releases it.'}
				</p>
			{:else}
				<p class="flex items-center gap-2"><LevelMark level="good" />{first.released.by}, {dayTime(first.released.atMs, zone)}</p>
			{/if}
			{#if line && first.panels.length}
				<section class="flex flex-col gap-2" data-testid="look">
					<h2 class="border-b border-hair pb-1 font-semibold">{line.where}</h2>
					<p>{line.look}</p>
					<p class="text-sm text-soft">
						Rests on {say(line.rests)}.{line.mark === 'again' ? ` Looked at with ${say(line.answer!.rests)}.` : ''}
					</p>
					{#if been.length}
						{#key `${line.key} ${line.mark}`}<LookForm runId={run.id} {line} panels={been} ondone={() => (picked = null)} />{/key}
					{:else}
						<p class="flex items-center gap-2"><LevelMark level="noData" />No panel has been through {line.through} yet.</p>
					{/if}
				</section>
			{/if}
			<Caution text="Panels come hot from the oven; they are handled at grounded stations. Paste and flux fume: wash hands." />
		{/if}
	</aside>
</div>
