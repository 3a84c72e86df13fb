<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { onMount } from 'svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { saidHere, type Said } from '$lib/ui/said.ts';

	let said = $state<Said[]>([]);
	onMount(() => {
		said = saidHere();
	});
	/** By the clock of this screen: it is what its messages were shown by. */
	const when = (at: number) => new Intl.DateTimeFormat('en-GB', { timeStyle: 'medium' }).format(new Date(at));
</script>

<section class="flex h-full flex-col px-5 pt-4">
	<h1 class="text-[28px] font-bold">Said on this screen</h1>
	<p class="text-soft">The messages that this screen showed you since you signed in, by its own clock, the newest first.</p>
	<div class="mt-3 min-h-0 flex-1">
		{#snippet mark(s: Said)}<LevelMark level={s.ok ? 'good' : 'act'} />{/snippet}
		<DataTable
			name="said"
			label="Messages"
			testid="said"
			rows={said}
			key={(s) => said.indexOf(s)}
			columns={[
				{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-8' },
				{ id: 'at', title: 'Time', value: (s) => s.at, words: (s) => when(s.at), class: 'figure w-28 whitespace-nowrap' },
				{ id: 'said', title: 'What was said', value: (s) => s.text }
			]}
			empty="Nothing yet."
		/>
	</div>
</section>
