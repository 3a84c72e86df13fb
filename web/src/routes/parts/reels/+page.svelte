<script lang="ts">
	import { standOfReel, type ReelEventKind } from '@keen-relay/core/parts';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { dayTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { KIND_WORDS, REEL_ACTS } from '$lib/ui/parts.ts';
	import TextField from '$lib/ui/TextField.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';
	import ReelActs from '../ReelActs.svelte';

	let { data } = $props();
	type Reel = (typeof data.reels)[number];
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const reel = $derived(data.reels.find((r) => r.code === data.asked) ?? null);
	const open = (r: Reel) => goto(`?reel=${encodeURIComponent(r.code)}`, { keepFocus: true, noScroll: true });
	const where = (r: Reel) =>
		r.feeder ? (r.at ? `${r.at.line}, ${r.at.name}, slot ${r.feeder.slot}` : `in feeder ${r.feeder.code}`) : r.status.place;
	const stand = (r: Reel) => standOfReel(r.status, r.pieces, r.feeder !== null);
	const kinds = $derived<ReelEventKind[]>(reel ? ['count', 'move', reel.status.blocked === null ? 'block' : 'unblock', 'gone'] : []);
	const split = entry({
		id: 'split',
		schema: bodies.reelSplit,
		start: () => ({ code: '', pieces: null, place: '' }),
		path: () => `/api/v1/reels/${encodeURIComponent(reel!.code)}/split`,
		done: ({ code, pieces }) => `${pieces} pieces are ${code} now`
	});
	const { form: part, errors: partErrors } = split;
	/** What happened to it and every scan of it, the latest first. */
	const lines = $derived(
		[
			...data.story.map((e) => ({
				key: `e${e.id}`,
				at: new Date(e.at).getTime(),
				what: REEL_ACTS[e.kind as ReelEventKind] ?? e.kind,
				more: [e.pieces === null ? '' : `${e.pieces} pieces`, e.rhPct === null ? '' : `${fixed(e.rhPct, 0)} % RH`, e.place, e.note]
					.filter(Boolean)
					.join(', '),
				by: e.by
			})),
			...data.scans.map((s) => ({
				key: `s${s.id}`,
				at: new Date(s.at).getTime(),
				what: s.ok ? 'Scanned: right' : 'Scanned: refused',
				more: `${s.station ? `${s.station}, slot ${s.slot}: ` : ''}${s.words}`,
				by: s.by
			}))
		].sort((a, b) => b.at - a.at)
	);
</script>

<div class="beside grid h-full gap-6 px-5 pt-3 [--beside:440px]">
	<section class="flex min-h-0 flex-col">
		<h1 class="text-[26px] leading-8 font-bold">Reels, sticks and trays</h1>
		<div class="mt-2 min-h-0 flex-1">
			{#snippet mark(r: Reel)}<span class="flex items-center gap-1.5 whitespace-nowrap"
					><LevelMark level={stand(r).level} />{stand(r).words}</span
				>{/snippet}
			{#snippet code(r: Reel)}<button class="figure whitespace-nowrap underline" onclick={() => open(r)}>{r.code}</button>{/snippet}
			<DataTable
				name="reels"
				label="Reels"
				testid="reels"
				rows={data.reels}
				key={(r) => r.code}
				picked={(r) => r.code === reel?.code}
				onpick={open}
				rowClass={(r) => (r.status.gone ? 'text-soft' : '')}
				columns={[
					{ id: 'code', title: 'Reel', value: (r) => r.code, cell: code },
					{ id: 'part', title: 'Part', value: (r) => r.partNumber },
					{ id: 'pieces', title: 'Pieces', value: (r) => r.pieces, figures: true },
					{ id: 'stands', title: 'Stands', value: (r) => stand(r).words, cell: mark },
					{ id: 'where', title: 'Where', value: where },
					{ id: 'lot', title: 'Maker’s lot', value: (r) => r.makerLot },
					{ id: 'owner', title: 'Owner', value: (r) => r.owner ?? '', away: true },
					{ id: 'date', title: 'Date code', value: (r) => r.dateCode, away: true }
				]}
				empty="Nothing received yet."
				emptyLink={{ href: '/parts', words: 'Receive the first reel' }}
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line pb-3 pl-5">
		{#if reel}
			<h2 class="figure text-xl font-semibold">{reel.code}</h2>
			<p>
				<strong>{reel.partNumber}</strong>, {KIND_WORDS[reel.kind]}{reel.tapeMm
					? `, ${reel.tapeMm} mm tape, pitch ${reel.pitchMm} mm`
					: ''};
				<span class="figure">{reel.pieces}</span> pieces{reel.splitFrom ? `, split from ${reel.splitFrom}` : ''}. {where(reel)}.
			</p>
			<p class="text-sm text-soft">
				{reel.makerPart || 'maker’s number not said'}, lot {reel.makerLot}{reel.dateCode ? `, date code ${reel.dateCode}` : ''}; received {dayTime(
					reel.receivedAt,
					zone
				)}. Owner: {reel.owner ?? 'the plant'}.
			</p>
			<p class="flex gap-2">
				<a class="btn min-h-11 border-ink bg-transparent" href="/sheets/reel-label?reel={encodeURIComponent(reel.code)}" target="_blank"
					>Label, PDF</a
				>
				{#if reel.status.dry}<a class="btn min-h-11 border-line bg-transparent font-normal" href="/parts/moisture">Its moisture clock</a
					>{/if}
				{#if reel.at}<a
						class="btn min-h-11 border-line bg-transparent font-normal"
						href="/line/{reel.at.lineId}/place/{reel.at.id}?slot={reel.feeder?.slot}">Its slot</a
					>{/if}
			</p>
			{#if !reel.status.gone}
				{#key reel.code}<ReelActs code={reel.code} pieces={reel.pieces} {kinds} />{/key}
				<EntryForm enhance={split.enhance} label="Split {reel.code}" class="grid grid-cols-3 items-end gap-2 border-t border-hair pt-2">
					<NumberField label="Split off, pieces" whole min={1} bind:value={$part.pieces} errors={$partErrors.pieces} />
					<TextField
						label="as number"
						spoken="Number of the new reel"
						bind:value={$part.code}
						errors={$partErrors.code}
						figure
						scan
						class="h-11"
					/>
					<TextField label="put in" spoken="Place of the new reel" bind:value={$part.place} errors={$partErrors.place} class="h-11" />
					<button class="btn col-span-3 min-h-11 border-line bg-transparent font-normal" disabled={!can('reel.report')}>Split it</button>
				</EntryForm>
			{/if}
			<DataTable
				small
				whole
				name="reel-story"
				label="What happened to it"
				rows={lines}
				key={(l) => l.key}
				columns={[
					{ id: 'at', title: 'When', value: (l) => l.at, time: true },
					{ id: 'what', title: 'What', value: (l) => l.what },
					{ id: 'more', title: '', value: (l) => l.more },
					{ id: 'by', title: 'By', value: (l) => l.by }
				]}
				empty="Nothing since it was received."
			/>
		{:else}
			<p class="text-soft">Choose a reel, or scan it: its story, count and label stand here.</p>
		{/if}
	</aside>
</div>
