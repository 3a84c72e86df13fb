<script lang="ts">
	import { page } from '$app/state';
	import LineBoard from '$lib/ui/LineBoard.svelte';

	let { data } = $props();
</script>

{#if page.data.line}
	<div class="h-full px-8 pt-4"><LineBoard line={page.data.line} hours={data.hours} wall /></div>
{/if}
