<script lang="ts">
	import VisitFiles from '$lib/ui/VisitFiles.svelte';

	let { data } = $props();
</script>

{#key data.station.id}<VisitFiles station={data.station} />{/key}
