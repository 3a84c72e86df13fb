<script lang="ts">
	import { can } from '$lib/ui/can.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	type Board = (typeof data.boards)[number];
	const agreed = ({ errors }: Board) => (errors === 0 ? 'yes' : errors === 1 ? '1 error' : `${errors} errors`);
	const allowed = $derived(can('board.create'));
</script>

<section class="flex h-full flex-col px-5 pt-4">
	<div class="flex items-center justify-between">
		<h1 class="text-[28px] font-bold">Boards</h1>
		<div class="flex gap-3">
			<a class="btn h-12 border-ink bg-transparent px-6" href="/boards/packages">Packages</a>
			{#if allowed}<a class="btn h-12 px-6 btn-primary" href="/boards/new">New board</a>{/if}
		</div>
	</div>
	<div class="mt-3 min-h-0 flex-1">
		{#snippet board(b: Board)}<a class="font-semibold underline" href="/boards/{b.sideId}">{b.name}</a>{/snippet}
		{#snippet agree(b: Board)}<span class="flex items-center gap-2"><LevelMark level={b.errors ? 'act' : 'good'} />{agreed(b)}</span
			>{/snippet}
		<DataTable
			name="boards"
			label="Boards"
			testid="boards"
			rows={data.boards}
			key={(b) => b.sideId}
			columns={[
				{ id: 'board', title: 'Board', value: (b) => b.name, cell: board },
				{ id: 'customer', title: 'Customer', value: (b) => b.customer },
				{ id: 'revision', title: 'Revision', value: (b) => b.revision },
				{ id: 'side', title: 'Side', value: (b) => b.side },
				{ id: 'width', title: 'Width, mm', value: (b) => b.widthMm, decimals: 1 },
				{ id: 'height', title: 'Height, mm', value: (b) => b.heightMm, decimals: 1 },
				{ id: 'openings', title: 'Openings', value: (b) => b.openings, figures: true },
				{ id: 'parts', title: 'Parts', value: (b) => b.parts, figures: true },
				{
					id: 'panel',
					title: 'Panel',
					value: (b) => b.panel.free?.circuits.length ?? b.panel.columns * b.panel.rows,
					words: (b) => (b.panel.free ? `${b.panel.free.circuits.length} circuits` : `${b.panel.columns} × ${b.panel.rows}`)
				},
				{ id: 'agree', title: 'Files agree', value: (b) => b.errors, words: agreed, cell: agree },
				{ id: 'kept', title: 'Kept', value: (b) => b.createdAt.getTime(), time: true },
				{ id: 'by', title: 'By', value: (b) => b.createdBy, class: 'text-sm' }
			]}
			empty="No board yet. {allowed
				? 'Choose “New board” and give its paste layer, positions and parts list.'
				: 'An engineer or lead brings boards in.'}"
		/>
	</div>
</section>
