<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';

	interface Props {
		sides: readonly { sideId: number; label: string }[];
		sideId: number | null;
	}
	let { sides, sideId }: Props = $props();

	function choose(event: Event) {
		const url = new URL(page.url);
		url.searchParams.set('side', (event.currentTarget as HTMLSelectElement).value);
		void goto(url, { keepFocus: true });
	}
</script>

<label class="flex items-center gap-2">
	<span class="text-soft">Board</span>
	<select class="select h-11 w-auto border-line bg-sheet" value={sideId} onchange={choose} aria-label="Board">
		{#each sides as side (side.sideId)}<option value={side.sideId}>{side.label}</option>{/each}
	</select>
</label>
