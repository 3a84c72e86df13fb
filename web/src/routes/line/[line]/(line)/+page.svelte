<script lang="ts">
	import { page } from '$app/state';
	import LineBoard from '$lib/ui/LineBoard.svelte';
	import StopReason from '$lib/ui/StopReason.svelte';

	let { data } = $props();
</script>

{#if page.data.line}
	<LineBoard line={page.data.line} hours={data.hours}>
		<StopReason stops={page.data.line.unexplained} />
	</LineBoard>
{/if}
