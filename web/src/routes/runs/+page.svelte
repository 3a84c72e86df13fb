<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { judgeRun, runEndMs } from '@keen-relay/core/schedule';
	import { bodies } from '$lib/api/bodies.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { clockTime, dayTime, sayWhen } from '$lib/ui/format.ts';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { fixed, quantity } from '$lib/ui/theirs.svelte.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	const { form, errors, enhance, draft } = entry({
		id: 'new-job',
		schema: bodies.job,
		start: () => ({ number: '', boardRevisionId: data.boards[0]?.id ?? null, panels: 100 }),
		path: '/api/v1/jobs',
		done: ({ number }) => `Job ${number} entered`,
		draft: { subject: 'new-job' }
	});
	const line = $derived(page.data.line);
	const run = $derived(line?.run ?? null);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const finishMs = $derived(run && line?.pace.taktS ? runEndMs(plantTime.now, run.panels - run.finished, line.pace.taktS) : null);
	const done = $derived(run !== null && !run.settingUp && run.panels > 0 && run.finished >= run.panels);
	/** The oldest job that could follow. */
	const next = $derived(
		data.jobs.findLast(
			(job) =>
				job.on === null &&
				(data.missing[job.sideId] ?? []).length === 0 &&
				(job.second ? (job.waiting ?? 0) > 0 : job.finished < job.panels)
		) ?? null
	);
	const verdict = $derived(
		judgeRun(
			line?.name ?? 'The line',
			run,
			(line?.tiles ?? []).filter((tile) => tile.state === 'stopped').map((tile) => tile.name)
		)
	);

	type Job = (typeof data.jobs)[number];
	const missingFor = (job: Job) => data.missing[job.sideId] ?? [];
	const isHere = (job: Job) => job.on !== null && job.on.id === run?.id;
	const isBuilt = (job: Job) => (job.second ? job.waiting === 0 && job.finished > 0 : job.finished >= job.panels);
	function levelOf(job: Job) {
		if (job.on) return isBuilt(job) || job.on.readyAt === null ? 'act' : 'good';
		if (isBuilt(job)) return 'noData';
		return missingFor(job).length ? 'act' : 'good';
	}
	function wordsOf(job: Job): string {
		if (job.on)
			return `${isBuilt(job) ? 'done' : job.on.readyAt === null ? 'set-up' : 'running'} on ${job.on.line}${isBuilt(job) ? ': end the run' : ''}`;
		if (isBuilt(job)) return 'built';
		if (missingFor(job).length) return `needs ${missingFor(job).join(', ')}`;
		return job.second ? `may be set up: ${job.waiting} panels wait for this side` : 'may be set up';
	}

	async function setUp(job: { id: number; sideId: number; number: string }) {
		const body = { jobId: job.id, sideId: job.sideId, lineId: line?.id };
		if (await act('POST', '/api/v1/runs', body, `${job.number} is being set up`)) await goto('/runs/ready');
	}

	/** The bead is off: every jar of it ends its stay on the stencil. */
	async function beadOff(jars: readonly string[]) {
		for (const jar of jars)
			await act(
				'POST',
				`/api/v1/jars/${encodeURIComponent(jar)}/events`,
				{ kind: 'scrape_off', lineId: line?.id, grams: 0, fact: true },
				`Bead of ${jar} is off`
			);
	}

	async function washed(tool: { id: number; code: string }) {
		const path = `/api/v1/stencil-tools/${tool.id}/events`;
		if (await act('POST', path, { kind: 'unmount', lineId: line?.id, note: '' }, `${tool.code} is out of the printer`))
			await act('POST', path, { kind: 'clean', note: 'after the run' }, `${tool.code} is washed`);
	}
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col gap-3 px-5 pt-3.5">
		<VerdictHead {verdict}>
			{#if run}{run.board}
				{run.boardRevision}, {run.side}; stencil {run.stencilRevision}, program {run.programRevision}, oven recipe {run.recipeRevision};
				{run.settingUp ? 'set up since' : 'started'}
				{dayTime(run.readyAt ?? run.startedAt, zone)}.{:else}Set up a job below; what it still needs is said in its row.{/if}
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
		{#if run && run.settingUp}
			<p><a class="btn min-h-16 text-lg btn-primary" href="/runs/ready">Prove the set-up of {run.number}</a></p>
		{/if}
		{#if data.left && (done || data.left.bead || data.left.stencil)}
			<section class="flex flex-wrap items-center gap-3 border-y border-hair py-2" data-testid="follows">
				<h2 class="font-semibold">What follows {data.left.job ?? ''}</h2>
				{#if run && done}
					<button
						class="btn min-h-16 text-lg btn-primary"
						disabled={!can('run.end')}
						onclick={() => act('POST', `/api/v1/runs/${run!.id}/end`, {}, `${run!.number} ended`)}>End the run</button
					>
				{/if}
				{#if data.left.bead}
					{@const bead = data.left.bead}
					<button class="btn min-h-16 border-ink bg-transparent" disabled={!can('jar.scan')} onclick={() => beadOff(bead.jars)}
						>Bead is off: {quantity(bead.grams, 0, 'g')} of {bead.jars.join(', ')}, discarded</button
					>
				{/if}
				{#if data.left.stencil}
					{@const tool = data.left.stencil}
					<button class="btn min-h-16 border-ink bg-transparent" disabled={!can('stencilTool.mount')} onclick={() => washed(tool)}
						>{tool.code} is out and washed</button
					>
				{/if}
				{#if next && !(run && !done)}
					<span class="text-soft">Next: {next.number}, {next.board} {next.side}{run ? ', once this run is ended' : ''}</span>
					{#if !run}<button class="btn min-h-16 text-lg btn-primary" disabled={!can('run.setUp')} onclick={() => setUp(next)}
							>Set up {next.number}</button
						>{/if}
				{:else if !next}<span class="text-soft">No job is ready to follow.</span>{/if}
			</section>
		{/if}
		<div class="min-h-0 flex-1 overflow-y-auto">
			{#snippet stands(job: Job)}<span class="flex items-center gap-2"><LevelMark level={levelOf(job)} />{wordsOf(job)}</span>{/snippet}
			{#snippet acts(job: Job)}
				{#if isHere(job) && !isBuilt(job)}
					<button
						class="btn min-h-12 border-ink bg-transparent whitespace-nowrap"
						disabled={!can('run.end')}
						onclick={() => act('POST', `/api/v1/runs/${run!.id}/end`, {}, `${job.number} ended`)}>End the run</button
					>
				{:else if !run && !job.on && !isBuilt(job)}
					<button
						class="btn min-h-12 btn-primary"
						disabled={!can('run.setUp') || missingFor(job).length > 0 || job.waiting === 0}
						onclick={() => setUp(job)}>Set up</button
					>
				{/if}
			{/snippet}
			<DataTable
				name="jobs"
				label="Jobs"
				testid="jobs"
				rows={data.jobs}
				key={(job) => `${job.id} ${job.sideId}`}
				columns={[
					{ id: 'job', title: 'Job', value: (job) => job.number, class: 'figure font-semibold whitespace-nowrap' },
					{ id: 'board', title: 'Board', value: (job) => `${job.board} ${job.revision}, ${job.side}` },
					{ id: 'panels', title: 'Panels', value: (job) => (job.second ? job.finished + (job.waiting ?? 0) : job.panels), figures: true },
					{ id: 'finished', title: 'Finished', value: (job) => job.finished, figures: true },
					{ id: 'stands', title: 'Stands', value: wordsOf, cell: stands, class: 'max-w-64 text-sm' },
					{ id: 'act', title: '', value: () => null, cell: acts, class: 'text-right' }
				]}
				empty="No job yet. Enter one on the right, of a board that is read in."
				emptyLink={{ href: '/boards', words: 'Boards' }}
			/>
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
					<span class="figure whitespace-nowrap">{fixed(line?.pace.taktS, 1) ?? '–'} s</span>
				</p>
			</div>
		{/if}
		<EntryForm {enhance} {draft} label="New job" class="flex flex-col gap-2">
			<h2 class="border-b border-hair pb-1 font-semibold">New job</h2>
			<TextField label="Job number" bind:value={$form.number} errors={$errors.number} figure class="h-10" />
			<SelectField
				label="Board"
				spoken="Board of the job"
				bind:value={$form.boardRevisionId}
				errors={$errors.boardRevisionId}
				options={data.boards.map((board) => [board.id, board.label])}
				class="h-10"
			/>
			<NumberField label="Panels" whole min={1} bind:value={$form.panels} errors={$errors.panels} />
			<button class="btn min-h-16 text-lg btn-primary" disabled={!can('job.create')}>Enter the job</button>
			{#if !can('job.create')}<p class="text-sm text-soft">An engineer or lead enters jobs.</p>{/if}
		</EntryForm>
	</aside>
</div>
