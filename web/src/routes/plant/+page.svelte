<script lang="ts">
	import LinesBoard from '$lib/ui/LinesBoard.svelte';

	let { data } = $props();
</script>

<div class="h-full overflow-y-auto pt-2">
	<LinesBoard lines={data.all} />
	<p class="mt-3 text-sm text-soft">
		A row a line: the sentence of its worst station, every station’s level, and the next thing that needs a person.
		<a class="underline" href="/plant/wall">The same for a wall screen</a>
	</p>
</div>
