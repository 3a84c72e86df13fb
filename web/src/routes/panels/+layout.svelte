<script lang="ts">
	import { page } from '$app/state';
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const tabs = $derived([
		...(page.params.serial ? [{ path: `/${encodeURIComponent(page.params.serial)}`, name: 'Story' }] : []),
		{ path: '', name: 'Panels' },
		{ path: '/holds', name: 'Holds' }
	]);
</script>

<section class="flex h-full flex-col pt-1">
	<div class="px-5"><Tabs base="/panels" {tabs} label="Trace" keep={[]} /></div>
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
