<script lang="ts">
	import { page } from '$app/state';
	import { theirs } from '$lib/ui/theirs.svelte.ts';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
</script>

<div class="flex h-full flex-col px-5 pt-3.5">
	<h1 class="text-[28px] leading-[34px] font-bold">
		{data.changes.length === 0 ? 'Nothing was changed' : data.changes.length === 1 ? 'One change' : `${data.changes.length} changes`} in this
		shift.
	</h1>
	<p class="text-soft">
		What somebody released, set or moved on {page.data.line?.name} or for the whole plant, {data.shift.name} shift of {theirs().date(
			data.shift.date
		)}; all that people did stands on <a class="underline" href="/plant/log">the log</a>.
	</p>
	<div class="mt-3 min-h-0 max-w-5xl flex-1">
		<DataTable
			name="changes"
			label="Changes"
			testid="changes"
			rows={data.changes.map((c, i) => ({ ...c, i }))}
			key={(c) => c.i}
			columns={[
				{ id: 'at', title: 'At', value: (c) => c.at, class: 'figure w-16' },
				{ id: 'who', title: 'Who', value: (c) => c.who, class: 'whitespace-nowrap' },
				{ id: 'what', title: 'What', value: (c) => c.what }
			]}
			empty="Nothing was changed in this shift."
		/>
	</div>
</div>
