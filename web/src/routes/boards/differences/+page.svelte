<script lang="ts">
	import { differenceLevel, isUnsettled, type Difference } from '@keen-relay/core/boards';
	import { can } from '$lib/ui/can.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { DrawnSide } from '$lib/ui/drawn-side.svelte.ts';
	import { drawnParts } from '$lib/ui/geometry.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import { say } from '$lib/ui/theirs.svelte.ts';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import AnswerForm from './AnswerForm.svelte';

	let { data } = $props();
	const drawn = new DrawnSide(() => data.side?.id);
	const geometry = $derived(drawn.geometry);
	let number = $state<number | null>(null);
	$effect(() => {
		void data.side?.id;
		number = null;
	});
	const shown = $derived(
		data.differences.find((d) => d.finding === number) ?? data.differences.find(isUnsettled) ?? data.differences[0] ?? null
	);
	const STATES = { open: 'open', accepted: 'accepted', sentBack: 'sent back', corrected: 'corrected' } as const;
</script>

<div class="beside grid h-full [--beside:400px]">
	<section class="flex min-h-0 flex-col px-5 pt-3.5">
		<VerdictHead verdict={data.verdict}
			>{#if data.side}<a class="underline" href="/boards/{data.side.id}">{data.side.name} {data.side.revision}, {data.side.side}</a>: parts
				list, positions and paste against each other.{/if}</VerdictHead
		>
		<div class="min-h-0 flex-1">
			{#if geometry && data.side}
				<BoardDrawing
					widthMm={data.side.widthMm}
					heightMm={data.side.heightMm}
					pads={geometry.apertures}
					parts={drawnParts(geometry.parts)}
					colourOf={(i) => (geometry!.apertures[i]!.refDes ? 'soft' : 'watch')}
					ring={shown?.of.at ?? null}
					label="The difference that is chosen, on the drawing"
				/>
			{/if}
		</div>
		<div class="h-[46%] min-h-0">
			{#snippet mark(d: Difference)}<LevelMark level={differenceLevel(d)} />{/snippet}
			{#snippet what(d: Difference)}<button class="text-left underline" onclick={() => (number = d.finding)}>{say(d.of.message)}</button
				>{/snippet}
			<DataTable
				name="differences"
				label="Differences between the files"
				testid="differences"
				rows={data.differences}
				key={(d) => d.finding}
				picked={(d) => d === shown}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'what', title: 'Difference', value: (d) => d.of.message, cell: what },
					{ id: 'state', title: 'Stands', value: (d) => STATES[d.state], class: 'whitespace-nowrap' },
					{ id: 'why', title: 'Why', value: (d) => d.reason },
					{ id: 'by', title: 'By', value: (d) => d.by ?? '', class: 'whitespace-nowrap' }
				]}
				empty="Parts list, positions and paste agree."
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line px-5 pt-3.5 pb-3">
		<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
		{#if shown && data.side}
			<section class="flex flex-col gap-3">
				<h2 class="flex items-start gap-2 text-lg font-semibold"><LevelMark level={differenceLevel(shown)} />{say(shown.of.message)}</h2>
				<p class="text-sm text-soft">
					{shown.of.severity === 'error'
						? 'It keeps the side from being run until it is accepted.'
						: 'It does not keep the side from being run.'}
					{shown.state === 'corrected' ? `Corrected ${shown.reason}: run that one.` : ''}
				</p>
				{#key `${data.side.id} ${shown.finding}`}<AnswerForm
						sideId={data.side.id}
						finding={shown.finding}
						open={isUnsettled(shown)}
					/>{/key}
			</section>
			<p class="text-sm text-soft">
				Corrected files are read as a revision of their own, so that what was built by the old ones stays known{#if can('board.create')}:
					<a class="underline" href="/boards/new">read them</a>{/if}. What a newer revision has no more is marked as corrected there.
			</p>
		{/if}
	</aside>
</div>
