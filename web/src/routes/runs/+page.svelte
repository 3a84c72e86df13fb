<script lang="ts">
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { judgeRun, runEndMs } from '@keen-relay/core/schedule';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import DraftOffer from '$lib/ui/DraftOffer.svelte';
	import { Draft } from '$lib/ui/drafts.svelte.ts';
	import { clockTime, dayTime, sayWhen } from '$lib/ui/format.ts';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';

	let { data } = $props();
	let number = $state('');
	let boardRevisionId = $state<number | null>(untrack(() => data.boards[0]?.id ?? null));
	let panels = $state(100);
	const draft = new Draft<{ number: string; boardRevisionId: number | null; panels: number }>({
		subject: 'new-job',
		base: () => '',
		changed: () => number.trim() !== '',
		read: () => ({ number, boardRevisionId, panels }),
		take: (kept) => ({ number, boardRevisionId, panels } = kept)
	});
	const line = $derived(page.data.line);
	const run = $derived(line?.run ?? null);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const finishMs = $derived(run && line?.pace.taktS ? runEndMs(plantTime.now, run.panels - run.finished, line.pace.taktS) : null);
	const verdict = $derived(
		judgeRun(
			line?.name ?? 'The line',
			run,
			(line?.tiles ?? []).filter((tile) => tile.state === 'stopped').map((tile) => tile.name)
		)
	);

	async function create(event: SubmitEvent) {
		event.preventDefault();
		if (await act('POST', '/api/v1/jobs', { number, boardRevisionId, panels }, `Job ${number} entered`)) number = '';
	}
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_372px]">
	<section class="flex min-h-0 flex-col gap-3 px-5 pt-3.5">
		<VerdictHead {verdict}>
			{#if run}{run.board}
				{run.boardRevision}, {run.side}; stencil {run.stencilRevision}, program {run.programRevision}, oven recipe {run.recipeRevision};
				started {dayTime(run.startedAt, zone)}.{:else}Start a job below; what it still needs is said in its row.{/if}
		</VerdictHead>
		{#if run}
			<div class="h-5 w-full bg-hair" role="img" aria-label="{run.finished} of {run.panels} panels finished">
				<div class="flex h-5">
					<div class="bg-soft" style="width:{(100 * run.finished) / run.panels}%"></div>
					<div class="bg-line" style="width:{(100 * (run.printed - run.finished)) / run.panels}%"></div>
				</div>
			</div>
			<p class="-mt-2 text-sm text-soft">
				{run.finished} finished, {run.printed - run.finished} on the line, {Math.max(0, run.panels - run.printed)} to print
			</p>
		{/if}
		<div class="min-h-0 flex-1 overflow-y-auto">
			<table class="rows" data-testid="jobs">
				<thead><tr><th>Job</th><th>Board</th><th class="n">Panels</th><th class="n">Finished</th><th>Ready</th><th></th></tr></thead>
				<tbody>
					{#each data.jobs as job (`${job.id} ${job.sideId}`)}
						{@const missing = data.missing[job.sideId] ?? []}
						{@const here = job.on !== null && job.on.id === run?.id}
						{@const done = job.second ? job.waiting === 0 && job.finished > 0 : job.finished >= job.panels}
						<tr>
							<td class="figure font-semibold whitespace-nowrap">{job.number}</td>
							<td>{job.board} {job.revision}, {job.side}</td>
							<td class="n">{job.second ? job.finished + (job.waiting ?? 0) : job.panels}</td>
							<td class="n">{job.finished}</td>
							<td class="max-w-64 text-sm">
								<span class="flex items-center gap-2"
									><LevelMark level={job.on ? (done ? 'act' : 'good') : missing.length && !done ? 'act' : 'good'} />{job.on
										? done
											? `done on ${job.on.line}: end the run`
											: `running on ${job.on.line}`
										: done
											? 'built'
											: missing.length
												? `needs ${missing.join(', ')}`
												: job.second
													? `ready: ${job.waiting} panels wait for this side`
													: 'ready'}</span
								>
							</td>
							<td class="text-right">
								{#if here}
									<button
										class="btn min-h-12 border-ink bg-transparent whitespace-nowrap"
										disabled={!can('run.end')}
										onclick={() => act('POST', `/api/v1/runs/${run!.id}/end`, {}, `${job.number} ended`)}>End the run</button
									>
								{:else if !run && !job.on && !done}
									<button
										class="btn min-h-12 btn-primary"
										disabled={!can('run.start') || missing.length > 0 || job.waiting === 0}
										onclick={() =>
											act('POST', '/api/v1/runs', { jobId: job.id, sideId: job.sideId, lineId: line?.id }, `${job.number} started`)}
										>Start</button
									>
								{/if}
							</td>
						</tr>
					{:else}<tr><td colspan="6" class="text-soft">No job yet. Enter one on the right.</td></tr>{/each}
				</tbody>
			</table>
			{#if data.page.newer !== null || data.page.older !== null}
				<nav class="flex gap-6 py-3" aria-label="More jobs">
					{#if data.page.newer !== null}<a class="link" href="/runs?from={data.page.newer}">Newer jobs</a>{/if}
					{#if data.page.older !== null}<a class="link" href="/runs?from={data.page.older}">Older jobs</a>{/if}
				</nav>
			{/if}
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line px-5 pt-3.5">
		{#if run}
			<div>
				<p class="figure text-[46px] leading-[50px] font-semibold" data-testid="key-figure">{finishMs ? clockTime(finishMs, zone) : '–'}</p>
				<p class="text-soft">
					last panel finished{finishMs ? `, ${sayWhen(finishMs, plantTime.now)}` : ''}, at a takt of
					<span class="figure whitespace-nowrap">{line?.pace.taktS?.toFixed(1) ?? '–'} s</span>
				</p>
			</div>
		{/if}
		<form class="flex flex-col gap-2" onsubmit={create}>
			<h2 class="border-b border-hair pb-1 font-semibold">New job</h2>
			<DraftOffer {draft} />
			<label class="text-sm"
				><span class="text-soft">Job number</span><input
					class="figure input w-full border-line bg-sheet"
					bind:value={number}
					required
					aria-label="Job number"
				/></label
			>
			<label class="text-sm"
				><span class="text-soft">Board</span>
				<select class="select w-full border-line bg-sheet" bind:value={boardRevisionId} aria-label="Board of the job">
					{#each data.boards as board (board.id)}<option value={board.id}>{board.label}</option>{/each}
				</select></label
			>
			<label class="text-sm"
				><span class="text-soft">Panels</span><input
					class="figure input w-full border-line bg-sheet"
					type="number"
					min="1"
					bind:value={panels}
					aria-label="Panels"
				/></label
			>
			<button class="btn min-h-16 text-lg btn-primary" disabled={!can('job.create')}>Enter the job</button>
			{#if !can('job.create')}<p class="text-sm text-soft">An engineer or lead enters jobs.</p>{/if}
		</form>
	</aside>
</div>
