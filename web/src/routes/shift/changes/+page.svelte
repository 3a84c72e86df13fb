<script lang="ts">
	import { page } from '$app/state';
	import { theirs, say } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
</script>

<div class="h-full overflow-y-auto px-5 pt-3.5">
	<h1 class="text-[28px] leading-[34px] font-bold">
		{data.changes.length === 0 ? 'Nothing was changed' : data.changes.length === 1 ? 'One change' : `${data.changes.length} changes`} in this
		shift.
	</h1>
	<p class="text-soft">
		What somebody released, set or moved on {page.data.line?.name} or for the whole plant, {data.shift.name} shift of {theirs().date(
			data.shift.date
		)}; all that people did stands on <a class="underline" href="/plant/log">the log</a>.
	</p>
	<table class="rows mt-3 max-w-4xl" data-testid="changes">
		<tbody>
			{#each data.changes as c, i (i)}
				<tr><td class="figure w-16">{c.at}</td><td class="whitespace-nowrap">{c.who}</td><td>{say(c.what)}</td></tr>
			{/each}
		</tbody>
	</table>
</div>
