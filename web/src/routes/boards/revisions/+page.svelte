<script lang="ts">
	import { goto } from '$app/navigation';
	import { changeLevel, type RevisionChange } from '@keen-relay/core/boards';
	import { noData } from '@keen-relay/core/judgement';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { DrawnSide } from '$lib/ui/drawn-side.svelte.ts';
	import { drawnParts } from '$lib/ui/geometry.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import { quantity } from '$lib/ui/theirs.svelte.ts';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { working } from '$lib/ui/working.svelte.ts';

	let { data } = $props();
	const drawn = new DrawnSide(() => data.side?.id);
	const geometry = $derived(drawn.geometry);
	let picked = $state<string | null>(null);
	const verdict = $derived(
		data.compared?.verdict ??
			noData(data.side ? `${data.side.name} has no other revision to compare with.` : 'There is no board yet.', [
				'Read the files of the next revision'
			])
	);
	working.offer(() => verdict);
	const changes = $derived(data.compared?.changes ?? []);
	const KINDS = {
		value: 'value',
		partNumber: 'part number',
		turned: 'turned',
		package: 'package',
		side: 'other side',
		swapped: 'swapped',
		moved: 'moved',
		added: 'added',
		removed: 'removed'
	} as const;
	const levels = $derived(new Map([...changes].reverse().map((c) => [c.refDes, changeLevel(c)] as const)));
	const at = $derived(changes.find((c) => c.refDes === picked && c.at.side === data.side?.side)?.at);
	const another = $derived.by(() => {
		const { dxMm = 0, dyMm = 0, turnDeg = 0 } = data.compared?.frame ?? {};
		const off = Math.hypot(dxMm, dyMm) > 0.005 ? `${quantity(dxMm, 2, 'mm')}, ${quantity(dyMm, 2, 'mm')} off` : '';
		const said = [off, turnDeg ? `${turnDeg}° turned` : ''].filter(Boolean).join(' and ');
		return said && `; its files lie ${said}, which is no change`;
	});
</script>

<div class="beside grid h-full [--beside:520px]">
	<section class="flex min-h-0 flex-col px-5 pt-3.5">
		<VerdictHead {verdict}>
			{#if data.side && data.compared}
				<a class="underline" href="/boards/{data.side.id}">{data.side.name} {data.side.revision}, {data.side.side}</a> against {data.since!
					.revision}: {data.compared.same} parts are as they were{another}.
			{/if}
		</VerdictHead>
		<div class="min-h-0 flex-1">
			{#if geometry && data.side}
				<BoardDrawing
					widthMm={data.side.widthMm}
					heightMm={data.side.heightMm}
					pads={geometry.apertures}
					parts={drawnParts(geometry.parts)}
					colourOf={(i) => {
						const refDes = geometry!.apertures[i]!.refDes;
						return refDes ? (levels.get(refDes) ?? null) : null;
					}}
					ring={at ? { x: at.xMm, y: at.yMm } : null}
					onpick={(i) => (picked = geometry!.apertures[i]!.refDes)}
					label="Parts that have changed, on the drawing"
				/>
			{:else if data.side}<p class="p-8 text-soft">Drawing…</p>{/if}
		</div>
		<p class="flex items-center gap-4 py-1.5 text-sm text-soft">
			<span class="flex items-center gap-1.5"><LevelMark level="act" />stands on no drawing: value, part number, turn</span>
			<span class="flex items-center gap-1.5"><LevelMark level="watch" />is seen on it</span>
		</p>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 border-l border-line px-5 pt-3.5 pb-3">
		<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
		{#if data.revisions.length}
			<label class="flex items-center gap-3"
				><span class="text-soft">Changes since</span><select
					class="select h-11 flex-1 border-line bg-sheet"
					value={data.since?.id}
					onchange={(e) => goto(`?side=${data.side!.id}&since=${e.currentTarget.value}`, { keepFocus: true })}
					aria-label="Changes since revision"
					>{#each data.revisions as r (r.id)}<option value={r.id}>{r.revision}{r.older ? '' : ', newer'}</option>{/each}</select
				></label
			>
		{/if}
		<DoNext actions={verdict.doNext} />
		<div class="min-h-0 flex-1">
			{#snippet mark(c: RevisionChange)}<LevelMark level={changeLevel(c)} />{/snippet}
			{#snippet part(c: RevisionChange)}<button class="figure underline" onclick={() => (picked = c.refDes)}>{c.refDes}</button>{/snippet}
			<DataTable
				name="revision-changes"
				label="Changes"
				testid="changes"
				rows={changes}
				key={(c) => `${c.kind} ${c.refDes}`}
				picked={(c) => c.refDes === picked}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'part', title: 'Part', value: (c) => c.refDes, cell: part },
					{ id: 'what', title: 'What', value: (c) => KINDS[c.kind] },
					{ id: 'was', title: 'Was', value: (c) => c.was },
					{ id: 'now', title: 'Is', value: (c) => c.now }
				]}
				empty={data.compared ? 'Nothing has changed.' : 'Nothing to compare with.'}
			/>
		</div>
	</aside>
</div>
