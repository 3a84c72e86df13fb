<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const TABS = [
		{ path: '', name: 'Receive' },
		{ path: '/reels', name: 'Reels' },
		{ path: '/moisture', name: 'Moisture' },
		{ path: '/short', name: 'Short' },
		{ path: '/feeders', name: 'Feeders and nozzles' }
	];
</script>

<section class="flex h-full flex-col pt-1">
	<div class="px-5"><Tabs base="/parts" tabs={TABS} label="Parts" keep={[]} /></div>
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
