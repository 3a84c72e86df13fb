<script lang="ts">
	import { page } from '$app/state';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { figure, titled } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const allowed = $derived(can('board.create'));
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
</script>

<section class="flex h-full flex-col px-5 pt-4">
	<div class="flex items-center justify-between">
		<h1 class="text-[28px] font-bold">Boards</h1>
		<div class="flex gap-3">
			<a class="btn h-12 border-ink bg-transparent px-6" href="/boards/packages">Packages</a>
			{#if allowed}<a class="btn h-12 px-6 btn-primary" href="/boards/new">New board</a>{/if}
		</div>
	</div>
	<div class="mt-3 min-h-0 flex-1 overflow-y-auto">
		<table class="rows">
			<thead>
				<tr
					><th>Board</th><th>Customer</th><th>Revision</th><th>Side</th><th class="n">{titled('Size, mm')}</th><th class="n">Openings</th
					><th class="n">Parts</th><th>Panel</th><th>Files agree</th><th>Kept</th></tr
				>
			</thead>
			<tbody>
				{#each data.boards as board (board.sideId)}
					<tr>
						<td><a class="font-semibold underline" href="/boards/{board.sideId}">{board.name}</a></td>
						<td>{board.customer}</td>
						<td>{board.revision}</td>
						<td>{board.side}</td>
						<td class="n">{figure(board.widthMm, 1, 'mm')} × {figure(board.heightMm, 1, 'mm')}</td>
						<td class="n">{board.openings}</td>
						<td class="n">{board.parts}</td>
						<td>{board.panel.free ? `${board.panel.free.circuits.length} circuits` : `${board.panel.columns} × ${board.panel.rows}`}</td>
						<td
							><span class="flex items-center gap-2"
								><LevelMark level={board.errors ? 'act' : 'good'} />{board.errors ? `${board.errors} errors` : 'yes'}</span
							></td
						>
						<td class="text-sm">{dayTime(board.createdAt, zone)}, {board.createdBy}</td>
					</tr>
				{:else}
					<tr
						><td colspan="10" class="text-soft"
							>No board yet. {allowed
								? 'Choose “New board” and give its paste layer, positions and parts list.'
								: 'An engineer or lead brings boards in.'}</td
						></tr
					>
				{/each}
			</tbody>
		</table>
	</div>
</section>
