<script lang="ts">
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
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class="mt-3 min-h-0 flex-1 overflow-y-auto" role="group" aria-label="Messages" tabindex="0">
		<table class="rows" data-testid="said">
			<tbody>
				{#each said as s, i (i)}
					<tr>
						<td class="w-8"><LevelMark level={s.ok ? 'good' : 'act'} /></td>
						<td class="figure w-28 whitespace-nowrap">{when(s.at)}</td>
						<td>{s.text}</td>
					</tr>
				{:else}<tr><td class="text-soft">Nothing yet.</td></tr>{/each}
			</tbody>
		</table>
	</div>
</section>
