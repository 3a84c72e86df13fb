<script lang="ts">
	import { page } from '$app/state';
	import { dayTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const PASTE = { pass: 'good', review: 'watch', reject: 'act' } as const;
</script>

<section class="flex h-full flex-col px-5 pt-4">
	<div class="flex items-center justify-between">
		<h1 class="text-[28px] font-bold">Panels</h1>
		<form method="get" class="flex gap-2">
			<input
				class="input h-12 w-72 border-line bg-sheet"
				name="find"
				value={data.wanted}
				placeholder="part of a serial"
				aria-label="Part of a serial"
			/>
			<button class="btn h-12 border-ink bg-transparent">Find</button>
		</form>
	</div>
	<div class="mt-3 min-h-0 flex-1 overflow-y-auto">
		<table class="rows">
			<thead
				><tr
					><th>Serial</th><th>Job</th><th>Board</th><th>Line</th><th>Printed</th><th>Last reported from</th><th>Paste check</th><th
						class="n">Failed circuits</th
					></tr
				></thead
			>
			<tbody>
				{#each data.panels as panel (panel.id)}
					<tr>
						<td><a class="figure underline" href="/panels/{encodeURIComponent(panel.serial)}">{panel.serial}</a></td>
						<td class="figure">{panel.job}</td>
						<td>{panel.board}, {panel.side}</td>
						<td>{panel.line}</td>
						<td>{dayTime(panel.printedAt, zone)}</td>
						<td>{panel.station ?? (panel.finishedAt ? 'finished' : 'off the line')}</td>
						<td
							><span class="flex items-center gap-2"
								><LevelMark level={panel.paste ? PASTE[panel.paste] : 'noData'} />{panel.paste ?? 'no data'}</span
							></td
						>
						<td class="n">{panel.failed ?? 0}</td>
					</tr>
				{:else}<tr
						><td colspan="8" class="text-soft"
							>{data.wanted
								? `No panel's serial contains “${data.wanted}”.`
								: 'No panel yet: a job that is printed on a line brings the first.'}</td
						></tr
					>{/each}
			</tbody>
		</table>
		{#if data.panels.length === data.most}<p class="py-2 text-sm text-soft">
				The latest {data.most} are shown. Type part of a serial to find an older one.
			</p>{/if}
	</div>
</section>
