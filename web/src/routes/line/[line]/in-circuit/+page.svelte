<script lang="ts">
	import InspectionPage from '$lib/ui/InspectionPage.svelte';

	let { data } = $props();
</script>

<InspectionPage
	{...data}
	caution="Test stations carry live voltage and stored charge: interlocks stay in force; pressing fixtures pinch."
/>
