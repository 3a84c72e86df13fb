<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const tabs = [
		{ path: '', name: 'Jobs' },
		{ path: '/ready', name: 'Ready' },
		{ path: '/first', name: 'First board' }
	];
</script>

<section class="flex h-full flex-col pt-1">
	<div class="px-5"><Tabs base="/runs" {tabs} label="Run" keep={[]} /></div>
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
