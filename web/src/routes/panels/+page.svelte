<script lang="ts">
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	type Panel = (typeof data.panels)[number];
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
	<div class="mt-3 min-h-0 flex-1">
		{#snippet serial(p: Panel)}<a class="figure underline" href="/panels/{encodeURIComponent(p.serial)}">{p.serial}</a>{/snippet}
		{#snippet paste(p: Panel)}<span class="flex items-center gap-2"
				><LevelMark level={p.paste ? PASTE[p.paste] : 'noData'} />{p.paste ?? 'no data'}</span
			>{/snippet}
		<DataTable
			name="panels"
			label="Panels"
			testid="panels"
			rows={data.panels}
			key={(p) => p.id}
			columns={[
				{ id: 'serial', title: 'Serial', value: (p) => p.serial, cell: serial },
				{ id: 'job', title: 'Job', value: (p) => p.job, class: 'figure' },
				{ id: 'board', title: 'Board', value: (p) => `${p.board}, ${p.side}` },
				{ id: 'line', title: 'Line', value: (p) => p.line },
				{ id: 'printed', title: 'Printed', value: (p) => new Date(p.printedAt).getTime(), time: true },
				{ id: 'from', title: 'Last reported from', value: (p) => p.station ?? (p.finishedAt ? 'finished' : 'off the line') },
				{ id: 'paste', title: 'Paste check', value: (p) => p.paste ?? 'no data', cell: paste },
				{ id: 'failed', title: 'Failed circuits', value: (p) => Number(p.failed ?? 0), figures: true }
			]}
			empty={data.wanted
				? `No panel's serial contains “${data.wanted}”.`
				: 'No panel yet: a job that is printed on a line brings the first.'}
		>
			{#snippet after()}{#if data.panels.length === data.most}<p class="py-2 text-sm text-soft">
						The latest {data.most} are shown. Type part of a serial to find an older one.
					</p>{/if}{/snippet}
		</DataTable>
	</div>
</section>
