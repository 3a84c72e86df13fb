<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const TABS = [
		{ path: '', name: 'Files' },
		{ path: '/differences', name: 'Differences' },
		{ path: '/packages', name: 'Packages' },
		{ path: '/revisions', name: 'Revisions' }
	];
</script>

<section class="flex h-full flex-col pt-1">
	<div class="px-5"><Tabs base="/boards" tabs={TABS} label="Boards" /></div>
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
