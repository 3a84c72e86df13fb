<script lang="ts">
	import LinesBoard from '$lib/ui/LinesBoard.svelte';

	let { data } = $props();
</script>

<div class="h-full overflow-hidden px-8 pt-4"><LinesBoard lines={data.all} wall /></div>
