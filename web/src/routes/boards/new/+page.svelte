<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import type { Finding, BoardPart } from '@keen-relay/core/artwork';
	import { may, type Issue } from '@keen-relay/core/judgement';
	import type { ClassedAperture } from '$lib/model/types.ts';
	import { send } from '$lib/ui/api.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import { drawnParts } from '$lib/ui/geometry.ts';
	import Issues from '$lib/ui/Issues.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';

	interface Read {
		widthMm: number;
		heightMm: number;
		apertures: ClassedAperture[];
		parts: BoardPart[];
		findings: Finding[];
		issues: Issue[];
		refused: boolean;
		bomLines: number;
	}
	let form: HTMLFormElement | undefined = $state();
	let read = $state.raw<Read | null>(null);
	let issues: Issue[] = $state.raw([]);
	let busy = $state(false);
	let picked = $state<number | null>(null);
	const allowed = $derived(page.data.person && may(page.data.person.role, 'board.create'));
	const all = $derived<Issue[]>(read ? [...read.issues, ...read.findings] : issues);
	const errors = $derived(all.filter((issue) => issue.severity === 'error').length);

	const filesChosen = () =>
		['paste', 'positions', 'bom'].every((name) => (form?.elements.namedItem(name) as HTMLInputElement | null)?.files?.length);

	/** Reads the files as soon as the three are there: what they say is seen before anything is kept. */
	async function check() {
		if (!form || !filesChosen()) return;
		busy = true;
		const answer = await send<Read>('POST', '/api/v1/boards?check', new FormData(form));
		busy = false;
		picked = null;
		read = answer.data;
		issues = answer.ok
			? []
			: answer.issues.length
				? answer.issues
				: [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }];
	}

	async function keep(event: SubmitEvent) {
		event.preventDefault();
		busy = true;
		const answer = await send<{ sideId: number }>('POST', '/api/v1/boards', new FormData(form));
		busy = false;
		if (answer.data) return void (await goto(`/boards/${answer.data.sideId}`, { invalidateAll: true }));
		issues = answer.issues.length ? answer.issues : [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }];
		read = null;
	}
	const place = $derived(picked !== null && read ? (read.findings[picked - read.issues.length]?.at ?? null) : null);
</script>

<form bind:this={form} class="grid h-full grid-cols-[350px_minmax(0,1fr)_340px]" onsubmit={keep}>
	<section class="flex min-h-0 flex-col gap-1.5 overflow-y-auto border-r border-line px-5 py-3">
		<h1 class="text-2xl font-bold">New board, one side</h1>
		{#each [['paste', 'Paste layer, RS-274X', '', true] as const, ['positions', 'Positions, CSV', '.csv,.txt,.xy,.pos,.tsv', true] as const, ['bom', 'Parts list, CSV or XLSX', '.csv,.txt,.tsv,.xlsx', true] as const, ['outline', 'Outline layer, or type the size', '', false] as const] as [name, label, accept, required] (name)}
			<label class="flex flex-col text-sm">
				<span class="text-soft">{label}</span>
				<input class="file-input h-9 w-full border-line bg-sheet file-input-sm" type="file" {name} {accept} {required} onchange={check} />
			</label>
		{/each}
		<div class="grid grid-cols-3 gap-2 text-sm">
			<label
				><span class="text-soft">Width, mm</span><input
					class="figure input h-9 w-full border-line bg-sheet"
					name="widthMm"
					inputmode="decimal"
					onchange={check}
				/></label
			>
			<label
				><span class="text-soft">Height, mm</span><input
					class="figure input h-9 w-full border-line bg-sheet"
					name="heightMm"
					inputmode="decimal"
					onchange={check}
				/></label
			>
			<label
				><span class="text-soft">Side</span><select class="select h-9 w-full border-line bg-sheet" name="side" onchange={check}
					><option>top</option><option>bottom</option></select
				></label
			>
			<label
				><span class="text-soft">Thick, mm</span><input
					class="figure input h-9 w-full border-line bg-sheet"
					name="thicknessMm"
					value="1.6"
					inputmode="decimal"
				/></label
			>
			<label
				><span class="text-soft">Cu layers</span><input
					class="figure input h-9 w-full border-line bg-sheet"
					name="copperLayers"
					value="4"
					inputmode="numeric"
				/></label
			>
			<label
				><span class="text-soft">Copper, %</span><input
					class="figure input h-9 w-full border-line bg-sheet"
					name="copperPct"
					value="55"
					inputmode="numeric"
				/></label
			>
		</div>
		<div class="grid grid-cols-2 gap-2 text-sm">
			<label
				><span class="text-soft">Unit of positions</span>
				<select class="select h-9 w-full border-line bg-sheet" name="unit" onchange={check}
					><option value="">as the file says</option><option>mm</option><option>mil</option><option>inch</option></select
				></label
			>
			<label
				><span class="text-soft">Decimal sign</span>
				<select class="select h-9 w-full border-line bg-sheet" name="decimal" onchange={check}
					><option value="">as the file says</option><option value=".">point</option><option value=",">comma</option></select
				></label
			>
		</div>
		<div class="grid grid-cols-[1fr_1fr_70px] gap-2 text-sm">
			<label><span class="text-soft">Board</span><input class="input h-9 w-full border-line bg-sheet" name="name" required /></label>
			<label><span class="text-soft">Customer</span><input class="input h-9 w-full border-line bg-sheet" name="customer" required /></label>
			<label><span class="text-soft">Revision</span><input class="input h-9 w-full border-line bg-sheet" name="revision" required /></label>
		</div>
		<button class="btn mt-1 min-h-14 text-lg btn-primary" disabled={!allowed || busy || read?.refused === true}
			>{busy ? 'Reading…' : 'Keep as board revision'}</button
		>
		{#if !allowed}<p class="text-sm text-soft">An engineer or lead brings boards in.</p>{/if}
	</section>
	<section class="flex min-h-0 flex-col px-4 py-3">
		{#if read && read.apertures.length}
			<p class="flex items-center gap-2 text-lg" data-testid="read-summary">
				<LevelMark level={read.refused ? 'stopped' : errors ? 'act' : 'good'} />
				<span
					>{read.apertures.length} openings, {read.parts.length} parts, {read.bomLines} lines of the parts list.
					{#if read.refused}Not kept until the errors are mended.{:else if errors}{errors} errors to settle before a run.{:else}The files
						agree.{/if}</span
				>
			</p>
			<div class="min-h-0 flex-1">
				<BoardDrawing
					widthMm={read.widthMm || 100}
					heightMm={read.heightMm || 100}
					pads={read.apertures}
					parts={drawnParts(read.parts)}
					colourOf={(i) => (read!.apertures[i]!.refDes ? 'soft' : 'watch')}
					ring={place}
					label="Openings and parts as read from the files"
				/>
			</div>
		{:else}
			<p class="m-auto max-w-md border border-dashed border-none p-6 text-soft">
				Choose the paste layer, the positions and the parts list of one side, and give its size or outline. The board is drawn here, to
				scale, before anything is kept.
			</p>
		{/if}
	</section>
	<section class="flex min-h-0 flex-col border-l border-line px-4 py-3">
		<h2 class="font-semibold">{all.length ? `${errors} errors, ${all.length - errors} to look at` : 'What the files say'}</h2>
		<div class="min-h-0 flex-1 overflow-y-auto" data-testid="issues"><Issues issues={all} onpick={(i) => (picked = i)} {picked} /></div>
	</section>
</form>
