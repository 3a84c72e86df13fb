<script lang="ts">
	import InspectionPage from '$lib/ui/InspectionPage.svelte';

	let { data } = $props();
</script>

<InspectionPage {...data} caution="Bright light and moving gantry: covers stay closed." />
