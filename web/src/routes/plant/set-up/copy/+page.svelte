<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { invalidateAll } from '$app/navigation';
	import type { Issue } from '@keen-relay/core/judgement';
	import type { Copied } from '$lib/server/line/copy.ts';
	import { send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Issues from '$lib/ui/Issues.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';

	let text = $state('');
	let name = $state('');
	let would = $state<Copied[] | null>(null);
	let done = $state(false);
	let issues = $state<Issue[]>([]);
	let problem = $state('');
	let busy = $state(false);

	const WORDS: Record<Copied['stands'], string> = {
		new: 'new here',
		changed: 'takes the file’s',
		same: 'is so already',
		left: 'stays as it is',
		refused: 'not possible'
	};
	const LEVELS = { new: 'good', changed: 'watch', same: 'noData', left: 'noData', refused: 'act' } as const;
	const todo = $derived((would ?? []).filter((c) => c.stands === 'new' || c.stands === 'changed').length);

	async function read(event: Event & { currentTarget: HTMLInputElement }) {
		const [file] = event.currentTarget.files ?? [];
		if (!file) return;
		[name, text] = [file.name, await file.text()];
		await ask(false);
	}
	async function ask(apply: boolean) {
		busy = true;
		const answer = await send<{ copied: Copied[] }>('POST', '/api/v1/plant/set-up', { text, apply });
		busy = false;
		[issues, problem] = [answer.issues, answer.message];
		would = answer.data?.copied ?? null;
		done = apply && answer.ok;
		if (done) await invalidateAll();
	}
</script>

<div class="grid h-full grid-cols-[360px_minmax(0,1fr)] gap-8 pt-3">
	<section class="flex flex-col gap-3">
		<h1 class="text-[26px] leading-8 font-bold">Copy of the set-up</h1>
		<p>
			One file with the plant, its lines and machine data, rules, rights, pastes and sensors. People, tokens, boards and results are not in
			it.
		</p>
		{#if can('plant.set')}<a class="btn min-h-16 text-lg btn-primary" href="/api/v1/plant/set-up" download="set-up.json"
				>Write it to a file</a
			>
		{:else}<p class="text-soft">A lead writes and reads it.</p>{/if}
		<label class="mt-4 flex flex-col gap-1"
			><span class="font-semibold">Start this plant from another one’s file</span>
			<input class="file-input h-12 w-full border-line bg-sheet" type="file" accept=".json,application/json" onchange={read} />
		</label>
		<p class="text-sm text-soft">First it says what would be done. Nothing that is here is taken away.</p>
	</section>
	<section class="flex min-h-0 flex-col">
		{#if would}
			<div class="flex items-center gap-4">
				<h2 class="flex-1 text-xl font-semibold" data-testid="copy-head">
					{done
						? `${todo} things were taken from ${name}.`
						: todo
							? `${todo} things would be taken from ${name}.`
							: `Nothing of ${name} is new here.`}
				</h2>
				{#if !done && todo}<button
						class="btn min-h-16 px-8 text-lg btn-primary"
						disabled={busy || !can('plant.set')}
						onclick={() => ask(true)}>{busy ? 'One moment…' : 'Take them'}</button
					>{/if}
			</div>
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div class="mt-2 min-h-0 flex-1 overflow-y-auto" role="group" aria-label="What becomes of each" tabindex="0">
				{#snippet mark(c: NonNullable<typeof would>[number])}<span class="flex items-center gap-2"
						><LevelMark level={LEVELS[c.stands]} />{WORDS[c.stands]}</span
					>{/snippet}
				<DataTable
					whole
					name="set-up-copied"
					label="What it would bring"
					testid="copied"
					rows={would}
					key={(c) => c.what}
					columns={[
						{ id: 'what', title: 'What', value: (c) => c.what, class: 'font-semibold' },
						{ id: 'stands', title: 'Becomes', value: (c) => WORDS[c.stands], cell: mark },
						{ id: 'why', title: 'Why', value: (c) => c.why }
					]}
					empty="Nothing."
				/>
			</div>
		{:else if problem}
			<h2 class="text-xl font-semibold text-stop" role="alert">{problem}</h2>
			{#if issues.length}<Issues {issues} />{/if}
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">Choose a file, and what it would bring stands here.</p>
		{/if}
	</section>
</div>
